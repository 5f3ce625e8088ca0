import {
  barAt,
  createStep,
  itemOf,
  listOf,
  numbersOf,
  sentenceOf,
  sessionTickOf,
  takesOfPart,
  timelineOf,
  withRecording,
  type Part,
  type RecordMode,
  type Recorded,
  type Recording,
  type Session,
  type TakeReference,
} from '@ordle/core';
import { toast } from 'sonner';
import { writeAssembly } from '@/edits/assemblyActions';
import { engine } from '@/engine/engineClient';
import { meet } from '@/state/answers';
import { edit } from '@/state/sessionSlice';
import type { AppDispatch } from '@/state/store';
import { barsInWords } from '@/words/counts';

/** A recording that is to be put into a part. */
export interface Finished {
  partId: string;
  recording: Recording;
  /** The second of the music it ends at, counted on through loops. */
  end: number;
  mode: RecordMode;
  lanes: readonly string[] | null;
  input: string;
  latencyMs: number;
  slips: number;
  /** Passes that were thrown back. */
  thrown?: ReadonlySet<number>;
  /** A grid it is to be heard on, by a step of its own; null for none. */
  grid?: string | null;
  /** The part as it is to be, where it is not there yet or was empty and is locked to seconds from now on. */
  newPart?: Part;
}

/** What was made of recordings. */
export interface PutIn {
  sessionId: string;
  partIds: string[];
  /** Keys of the takes that were made. */
  takes: string[];
  notes: number;
  passes: number;
  /** In words, as the history has it. */
  label: string;
}

interface Sealed extends Finished {
  recorded: Recorded;
  reference: TakeReference;
}

/** The bars a recording lies in, of the session's own numbering. */
function barsOf({ recorded }: Sealed, session: Session): string {
  const { meter } = timelineOf(session);
  const { loop, punch, events, time } = recorded;
  const range = loop ?? punch;
  const first = range?.from ?? Math.max(0, sessionTickOf(time, events.tick[0] ?? 0));
  const last = range ? range.to - 1 : Math.max(first, sessionTickOf(time, events.tick.at(-1) ?? 0) - 1);
  return barsInWords(barAt(meter, Math.max(0, first)).number, barAt(meter, Math.max(0, last)).number);
}

/**
 * Seals recordings and puts them into their parts, all of them as one entry of the history. Null, with a sentence told,
 * where nothing was played that counts or the session is not there any more.
 */
export async function putRecordings(
  dispatch: AppDispatch,
  session: Session,
  finished: readonly Finished[],
  verb: 'Recorded' | 'Kept' = 'Recorded',
): Promise<PutIn | null> {
  const sealed: Sealed[] = [];
  try {
    for (const each of finished) {
      const name = each.newPart?.name ?? itemOf(session.parts, each.partId)?.name ?? '';
      const { content, recorded } = each.recording.seal(each.end, name);
      const passes = recorded.passes.filter((pass) => !each.thrown?.has(pass));
      if (passes.length === 0) continue;
      const { reference } = await engine.sealTake(content);
      const { input, latencyMs, slips } = each;
      const speed = each.recording.settings.speed;
      sealed.push({
        ...each,
        recorded: { ...recorded, passes, take: reference.id },
        reference: { ...reference, recorded: { input, latencyMs, speed, passes: passes.length, slips } },
      });
    }
  } catch (error) {
    toast(sentenceOf(error), { duration: 10_000 });
    return null;
  }
  return put(dispatch, session, sealed, verb);
}

function put(dispatch: AppDispatch, session: Session, sealed: readonly Sealed[], verb: string): PutIn | null {
  const now = meet({ sessionId: session.id, partId: null })?.session;
  if (!now || sealed.length === 0) return null;
  const timeline = timelineOf(now);
  const numbers = numbersOf(now);
  const made = sealed.flatMap((each) => {
    const before = each.newPart ?? itemOf(now.parts, each.partId);
    if (!before) return [];
    const { mode, lanes } = each;
    const name = `Take ${takesOfPart(before, now).length + 1}`;
    const next = withRecording(before, now, timeline, each.recorded, { mode, lanes, name }, numbers);
    return next === before ? [] : [{ ...each, before, next }];
  });
  if (made.length === 0) {
    const isOfLanes = sealed.some(({ mode }) => mode === 'controllers' || mode === 'controller');
    if (isOfLanes) toast('No controller moved, so nothing was recorded. What was played is in the memory.');
    return null;
  }
  const names = made.map(({ before }) => before.name).join(' and ');
  const label = `${verb} ${names}, ${barsOf(made[0], now)}`;
  dispatch(
    edit(label, (draft) => {
      for (const { before, next, reference, newPart, grid, partId } of made) {
        if (newPart && !itemOf(draft.parts, newPart.id)) {
          draft.parts.byId[newPart.id] = structuredClone(newPart);
          draft.parts.order.push(newPart.id);
        }
        const own = itemOf(draft.parts, newPart?.id ?? partId);
        if (!own) continue;
        if (newPart) own.lockedTo = newPart.lockedTo;
        writeAssembly(own, before, next);
        if (grid) quantizeWhileRecording(own, grid);
        if (!Object.hasOwn(draft.takes.byId, reference.id)) {
          draft.takes.byId[reference.id] = reference;
          draft.takes.order.push(reference.id);
        }
      }
      draft.nextPiece = numbers.next;
    }),
  );
  return {
    sessionId: now.id,
    partIds: made.map(({ before }) => before.id),
    takes: made.map(({ reference }) => reference.id),
    notes: made.reduce((sum, { reference }) => sum + reference.noteCount, 0),
    passes: Math.max(...made.map(({ recorded }) => recorded.passes.length)),
    label,
  };
}

/** The grid what is played is heard on becomes a step of the part, unless its last step is one already. */
function quantizeWhileRecording(part: Part, grid: string): void {
  const step = createStep('quantize', { grid, strength: 100 });
  const last = listOf(part.steps).at(-1);
  if (last?.step.kind === step.kind) return;
  const id = crypto.randomUUID();
  part.steps.byId[id] = { id, step };
  part.steps.order.push(id);
}
