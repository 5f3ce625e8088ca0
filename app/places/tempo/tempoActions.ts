import {
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
import { putTime } from '@/edits/timeActions';
import { edit, selectDocument } from '@/state/sessionSlice';
import { store, type AppDispatch } from '@/state/store';

export const NO_HINTS: PulseHints = { beats: [], settling: 'beats' };

/** Changes what is known of the beats of a part and all that was recorded with it, as one action. */
export function changeHints(
  dispatch: AppDispatch,
  label: string,
  partId: string,
  change: (hints: PulseHints) => PulseHints,
) {
  const session = selectDocument(store.getState());
  const part = session && itemOf(session.parts, partId);
  if (!part) return;
  const keeper = pulseKeeper(part, session);
  const next = change(keeper.pulse ?? NO_HINTS);
  dispatch(
    edit(label, (draft) => {
      const part = itemOf(draft.parts, keeper.id);
      if (part) part.pulse = structuredClone(next);
    }),
  );
}

/** A beat that is said to be here is no longer said not to be, within so many seconds. */
const NEAR = 0.06;
/** Beats a person set that are this near to another, in seconds, are that one. */
const SAME = 0.02;

/** A beat is at a time; where one was set before, at `from`, it moves. */
export const withBeat = (hints: PulseHints, at: number, from = at): PulseHints => ({
  ...hints,
  ...(hints.without && { without: hints.without.filter((each) => Math.abs(each - at) > NEAR) }),
  beats: [
    ...hints.beats.filter((each) => Math.abs(each - from) > SAME && Math.abs(each - at) > SAME),
    Math.max(0, at),
  ].sort((one, other) => one - other),
});

export const withoutBeat = (hints: PulseHints, at: number): PulseHints => ({
  ...hints,
  beats: hints.beats.filter((each) => Math.abs(each - at) > SAME),
});

/** What was found at a time is no beat: the two beside it become one. */
export const withBeatOut = (hints: PulseHints, at: number): PulseHints => ({
  ...withoutBeat(hints, at),
  without: [...(hints.without ?? []), at],
});

/** All of some beats are kept as they are; what else is found is found around them. */
export const withBeatsKept = (hints: PulseHints, beats: readonly number[]): PulseHints =>
  beats.reduce((kept, at) => withBeat(kept, at), hints);

/** Another level: beats `factor` times as long as the typical one now, give or take a quarter. */
export const atLevel = (hints: PulseHints, bpm: number, factor: number): PulseHints => {
  const period = (60 / bpm) * factor;
  return { ...hints, period: [period * 0.8, period * 1.25] };
};

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
    edit(`The grid follows ${namesOf(seenOf(together))}`, (draft) => void putTime(draft, session, next)),
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
  dispatch(edit(`Lock ${part.name} to ${lockedTo}`, (draft) => void putTime(draft, session, next)));
}
