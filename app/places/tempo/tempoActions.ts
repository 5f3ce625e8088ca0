import {
  NO_HINTS,
  OrdleError,
  isPulse,
  gridToPlaying,
  itemOf,
  lockedIn,
  movedToRecording,
  playersOf,
  pulseKeeper,
  recordedWith,
  playingToGrid,
  timelineOf,
  type FoundBeats,
  type Part,
  type PulseHints,
} from '@ordle/core';
import { toast } from 'sonner';
import { putTime } from '@/edits/timeActions';
import { edit, selectDocument } from '@/state/sessionSlice';
import { store, type AppDispatch } from '@/state/store';

/**
 * Changes what is known of the beats of a part and all that was recorded with it, as one action. What cannot be is
 * refused, and told; returns whether it was done.
 */
export function changeHints(
  dispatch: AppDispatch,
  label: string,
  partId: string,
  change: (hints: PulseHints) => PulseHints,
): boolean {
  const session = selectDocument(store.getState());
  const part = session && itemOf(session.parts, partId);
  if (!part) return false;
  const keeper = pulseKeeper(part, session);
  const now = keeper.pulse ?? NO_HINTS;
  let next: PulseHints;
  try {
    next = change(now);
  } catch (refused) {
    if (!(refused instanceof OrdleError)) throw refused;
    toast.error(refused.message, { duration: 10000 });
    return false;
  }
  if (next === now) return false;
  dispatch(
    edit(label, (draft) => {
      const part = itemOf(draft.parts, keeper.id);
      if (part) part.pulse = structuredClone(next);
    }),
  );
  return true;
}

/** Names of parts in a row: "Keys, Bass and Kit". */
export function namesOf(parts: readonly Part[]): string {
  const names = parts.map(({ name }) => name);
  return names.length < 2 ? (names[0] ?? '') : `${names.slice(0, -1).join(', ')} and ${names.at(-1)}`;
}

/** The parts of a recording that are seen: what is set aside goes along without being named. */
export const seenOf = (parts: readonly Part[]): Part[] => {
  const seen = parts.filter(({ setAside }) => !setAside);
  return seen.length > 0 ? seen : [...parts];
};

/**
 * The grid goes to the performance: the session's tempo map and meter become those of the beats, and everything that
 * was recorded together stays in real time.
 */
export function letGridFollow(dispatch: AppDispatch, part: Part, beats: FoundBeats) {
  const session = selectDocument(store.getState());
  if (!session) return;
  const together = recordedWith(part, session);
  const ids = together.map(({ id }) => id);
  const next = gridToPlaying(session, ids, beats, timelineOf(session));
  dispatch(
    edit(`Tempo map from ${namesOf(seenOf(together))}`, (draft) => void putTime(draft, session, next)),
  );
}

/**
 * The performance goes to the grid: one pulse step, in place of one that is there, for everything that was recorded
 * together. What is made of parts goes along with them.
 */
export function letPlayingFollow(dispatch: AppDispatch, part: Part, beats: FoundBeats): boolean {
  const session = selectDocument(store.getState());
  const step = session && playingToGrid(beats, timelineOf(session));
  if (!step) return false;
  const players = playersOf(part, session);
  const names = namesOf(seenOf(recordedWith(part, session)));
  dispatch(
    edit(`${names} ${names === part.name ? 'follows' : 'follow'} the grid`, (draft) => {
      for (const { id: partId } of players) {
        const own = itemOf(draft.parts, partId);
        if (!own) continue;
        const there = own.steps.order.find((id) => isPulse(own.steps.byId[id].step));
        const id = there ?? crypto.randomUUID();
        own.steps.byId[id] = { id, step: structuredClone(step) };
        if (there === undefined) own.steps.order.unshift(id);
      }
    }),
  );
  return true;
}

/** Says that a part was recorded together with another, or by itself. */
export function setRecordedWith(dispatch: AppDispatch, part: Part, other: Part, isTogether: boolean) {
  const session = selectDocument(store.getState());
  if (!session) return;
  const next = movedToRecording(session, part, isTogether ? { of: other } : null);
  const label = isTogether
    ? `${part.name} was recorded with ${other.name}`
    : `${part.name} was recorded by itself`;
  dispatch(
    edit(label, (draft) => {
      for (const [id, made] of Object.entries(next.parts.byId))
        if (made !== session.parts.byId[id]) draft.parts.byId[id] = structuredClone(made);
    }),
  );
}

/** Locks a part to seconds or to beats, with what it is made of; nothing of it moves at that moment. */
export function lockPart(dispatch: AppDispatch, part: Part, lockedTo: Part['lockedTo']) {
  const session = selectDocument(store.getState());
  if (!session) return;
  const next = lockedIn(session, part.id, lockedTo, timelineOf(session));
  dispatch(
    edit(
      `${part.name} ${lockedTo === 'beats' ? 'follows the tempo' : 'keeps its real time'}`,
      (draft) => void putTime(draft, session, next),
    ),
  );
}
