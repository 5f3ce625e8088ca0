import {
  createStep,
  insertItems,
  itemOf,
  listOf,
  type ExportConcern,
  type Session,
  type Step,
} from '@ordle/core';
import { edit } from '@/state/sessionSlice';
import type { AppDispatch } from '@/state/store';

/** What would put a concern right: in words for its button, and done as one action. */
export interface Mend {
  label: string;
  run(dispatch: AppDispatch): void;
}

/** Notes named in a step at most; of more the whole part is meant. */
const MOST_NAMED = 2000;

/** The mend for a concern about what is written cleaned; null where there is none but leaving it. */
export function mendOf(concern: ExportConcern, session: Session, ticksPerQuarter: number): Mend | null {
  const name = itemOf(session.parts, concern.partId)?.name ?? '';
  const where = concern.count <= MOST_NAMED ? { notes: concern.notes } : {};
  switch (concern.kind) {
    case 'nested':
    case 'overlap':
      return stepMend(
        'End the earlier note',
        `No overlaps of one pitch in ${name}`,
        concern,
        createStep('length'),
      );
    case 'speck':
      return stepMend(
        'Lengthen to a 64th',
        `Least length in ${name}`,
        concern,
        createStep('length', { limit: [Math.round(ticksPerQuarter / 16), 1e9], where }),
      );
    case 'programs':
    case 'pedals':
    case 'shared-overlap':
      return channelMend(concern, session);
    default:
      return null;
  }
}

function stepMend(label: string, action: string, { partId }: ExportConcern, step: Step): Mend {
  return {
    label,
    run: (dispatch) =>
      void dispatch(
        edit(action, (draft) => {
          const part = itemOf(draft.parts, partId);
          const id: string = crypto.randomUUID();
          if (part) insertItems(part.steps, [{ id, step }], part.steps.order.length);
        }),
      ),
  };
}

/** A channel of its own for the second of two parts, where one is free; the drum channel is for drums. */
function channelMend({ otherId }: ExportConcern, session: Session): Mend | null {
  const other = itemOf(session.parts, otherId ?? undefined);
  const used = new Set(listOf(session.parts).map(({ channel }) => channel));
  const free = Array.from({ length: 16 }, (_, index) => index + 1).find(
    (channel) => channel !== 10 && !used.has(channel),
  );
  if (!other || other.sound.drums || free === undefined) return null;
  return {
    label: `Put ${other.name} on channel ${free}`,
    run: (dispatch) =>
      void dispatch(
        edit(`Channel ${free} for ${other.name}`, (draft) => {
          const part = itemOf(draft.parts, other.id);
          if (part) Object.assign(part, { channel: free, rechannel: true });
        }),
      ),
  };
}
