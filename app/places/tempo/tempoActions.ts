import {
  isPulse,
  gridToPlaying,
  itemOf,
  lockedIn,
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

/** Changes what is known of a part's beats, as one action. */
export function changeHints(
  dispatch: AppDispatch,
  label: string,
  partId: string,
  change: (hints: PulseHints) => PulseHints,
) {
  const session = selectDocument(store.getState());
  const now = session && itemOf(session.parts, partId);
  if (!now) return;
  const next = change(now.pulse ?? NO_HINTS);
  dispatch(
    edit(label, (draft) => {
      const part = itemOf(draft.parts, partId);
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

/**
 * The grid goes to the performance: the session's tempo map and meter become those of the beats, the part stays in
 * real time.
 */
export function letGridFollow(dispatch: AppDispatch, part: Part, beats: FoundBeats) {
  const session = selectDocument(store.getState());
  if (!session) return;
  const next = gridToPlaying(session, part.id, beats, timelineOf(session));
  dispatch(edit(`The grid follows ${part.name}`, (draft) => void putTime(draft, session, next)));
}

/** The performance goes to the grid: a pulse step, in place of one that is there. */
export function letPlayingFollow(dispatch: AppDispatch, part: Part, beats: FoundBeats): boolean {
  const session = selectDocument(store.getState());
  const step = session && playingToGrid(beats, timelineOf(session));
  if (!step) return false;
  dispatch(
    edit(`${part.name} follows the grid`, (draft) => {
      const own = itemOf(draft.parts, part.id);
      if (!own) return;
      const there = own.steps.order.find((id) => isPulse(own.steps.byId[id].step));
      const id = there ?? crypto.randomUUID();
      own.steps.byId[id] = { id, step: structuredClone(step) };
      if (there === undefined) own.steps.order.unshift(id);
    }),
  );
  return true;
}

/** Locks a part to seconds or to beats, with what it is made of; nothing of it moves at that moment. */
export function lockPart(dispatch: AppDispatch, part: Part, lockedTo: Part['lockedTo']) {
  const session = selectDocument(store.getState());
  if (!session) return;
  const next = lockedIn(session, part.id, lockedTo, timelineOf(session));
  dispatch(edit(`Lock ${part.name} to ${lockedTo}`, (draft) => void putTime(draft, session, next)));
}
