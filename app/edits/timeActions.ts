import {
  createTimeline,
  firstBarLine,
  itemOf,
  mapOfFile,
  readMidi,
  shiftToBar,
  shiftedPart,
  shiftedSession,
  timelineOf,
  underMap,
  type Session,
} from '@ordle/core';
import { toast } from 'sonner';
import { engine } from '@/engine/engineClient';
import { edit, selectDocument } from '@/state/sessionSlice';
import { store, type AppDispatch } from '@/state/store';

/** Gives the session another tempo map or meter, as one action; parts locked to real time stay where they are. */
export function changeMap(
  dispatch: AppDispatch,
  label: string,
  change: (session: Session) => Partial<Pick<Session, 'tempos' | 'meters'>>,
) {
  const session = selectDocument(store.getState());
  if (!session) return;
  const maps = { tempos: session.tempos, meters: session.meters, ...change(session) };
  const before = timelineOf(session);
  const after = createTimeline(before.division, maps.tempos, maps.meters);
  const next = underMap(session, maps, before, after);
  dispatch(edit(label, (draft) => void putTime(draft, session, next)));
}

/** Takes the tempo map and meter of a file over. Throws what reading it throws. */
export function takeMap(dispatch: AppDispatch, name: string, bytes: Uint8Array) {
  const { file } = readMidi(bytes);
  const session = selectDocument(store.getState());
  if (!session) return;
  const maps = mapOfFile(file, timelineOf(session).ticksPerQuarter);
  changeMap(dispatch, `Tempo and meter of ${name}`, () => maps);
}

/** Where the first note of a part starts and where the part ends, in ticks. */
export type Spans = Record<string, { first: number | null; end: number }>;

/** The first start of some parts; null where none has notes. */
export function firstOf(spans: Spans, partIds: readonly string[]): number | null {
  const firsts = partIds.flatMap((id) => spans[id]?.first ?? []);
  return firsts.length === 0 ? null : Math.min(...firsts);
}

/**
 * Moves everything, or one part, so that a place comes to lie on a bar line; what stands before it, from `first` on,
 * keeps whole bars as its upbeat. Ticks.
 */
export function putOnBar(
  dispatch: AppDispatch,
  { at, first, partId }: { at: number; first: number; partId: string | null },
) {
  const session = selectDocument(store.getState());
  if (!session) return;
  const timeline = timelineOf(session);
  const shift = shiftToBar(at, Math.min(at, first), timeline);
  if (Math.abs(shift) < 1e-6) return;
  const part = partId === null ? undefined : itemOf(session.parts, partId);
  const next: Session = part
    ? {
        ...session,
        parts: {
          ...session.parts,
          byId: { ...session.parts.byId, [part.id]: shiftedPart(part, shift, timeline) },
        },
      }
    : shiftedSession(session, shift, timeline);
  dispatch(
    edit(
      part ? `Put ${part.name} on a bar line` : 'Put the music on a bar line',
      (draft) => void putTime(draft, session, next),
    ),
  );
}

/**
 * Moves everything, or one part, so that the bar of the first note (`first`, in ticks) is bar 1: by whole bars of the
 * session, or where the playing is not to its click, by the bars that are found in it.
 */
export async function beginAtBarOne(
  dispatch: AppDispatch,
  first: number,
  partId: string | null,
): Promise<void> {
  const session = selectDocument(store.getState());
  if (!session) return;
  const player = partId ?? (await firstPlayer(session));
  const found = player === null ? null : (await engine.foundBeats({ session, partId: player })).found;
  const now = selectDocument(store.getState());
  if (now !== session) return;
  const at = firstBarLine(first, timelineOf(session), found);
  if (at < 0.5) toast('The music begins in bar 1 already.');
  else putOnBar(dispatch, { at, first, partId });
}

/** The part whose first note is the first of all. */
async function firstPlayer(session: Session): Promise<string | null> {
  const spans = await engine.spans({ session });
  const all = Object.entries(spans).filter(([, { first }]) => first !== null);
  all.sort(([, one], [, other]) => (one.first ?? 0) - (other.first ?? 0));
  return all.at(0)?.[0] ?? null;
}

/** Writes the tempo, meter, markers and parts that are others in `next` into a draft of `session`. */
export function putTime(draft: Session, session: Session, next: Session) {
  if (next.tempos !== session.tempos) draft.tempos = structuredClone(next.tempos);
  if (next.meters !== session.meters) draft.meters = structuredClone(next.meters);
  if (next.markers !== session.markers) draft.markers = structuredClone(next.markers);
  for (const id of session.parts.order)
    if (next.parts.byId[id] !== session.parts.byId[id])
      draft.parts.byId[id] = structuredClone(next.parts.byId[id]);
}
