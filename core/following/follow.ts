import { chordsOf, strokesTogether, type PlayedNotes } from './chords';
import { matched, occurrencesOf, type Occurrence } from './match';
import type { Said } from './jumps';
import { JUMP, SURE_JUMP, findPath } from './path';
import { passagesOf, secondsAt, type Clock, type Passage } from './passages';
import type { Score } from './score';

/** What is known of a performance laid beside what is written. */
export interface Following {
  passages: readonly Passage[];
  /** Every written note that was to be played, in order of place: with repeats taken, without what was cut. */
  occurrences: readonly Occurrence[];
  /** For each occurrence the played row, or -1: missing. */
  playedOf: Int32Array;
  /** For each played row the occurrence, or -1: extra. */
  occurrenceOf: Int32Array;
  /** For each played row with an occurrence whether it has its pitch. */
  isRight: Uint8Array;
  /** When each place was played, in unrolled quarters. */
  clock: Clock;
}

/**
 * Follows a performance along a score, note by note, with repeats and cuts. `playing` is in order of start. `said` are
 * beginnings of bars a person told, which always hold.
 */
export function follow(score: Score, playing: PlayedNotes, said: readonly Said[] = []): Following {
  const sides = { playing, groups: strokesTogether(playing), score, chords: chordsOf(score) };
  const along = (jumpCost: number) => {
    const { passages, clock } = passagesOf(findPath(sides, said, jumpCost), sides);
    return pairedAlong(passages, clock, playing, score);
  };
  const found = along(JUMP);
  if (found.passages.length < 2) return found;
  // Dense and uneven playing makes jumps that are none: they have to be worth it.
  const plainer = along(SURE_JUMP);
  return worthOf(plainer) >= worthOf(found) ? plainer : found;
}

/** A jump brings so many right notes at least, or as many that are not missing. */
const WORTH = 3;

/** How well a way explains the playing: right notes without those that are missing, and what jumps have to bring. */
const worthOf = (found: Following): number =>
  rightOf(found) -
  found.playedOf.reduce((count, row) => count + Number(row < 0), 0) -
  WORTH * (found.passages.length - 1);

const rightOf = ({ isRight }: Following): number => isRight.reduce((sum, each) => sum + each, 0);

/** Which note is which along the passages that were played. */
function pairedAlong(
  passages: readonly Passage[],
  first: Clock,
  playing: PlayedNotes,
  score: Score,
): Following {
  const occurrences = occurrencesOf(score, passages);
  let clock = first;
  let playedOf: Int32Array = new Int32Array(occurrences.length).fill(-1);
  for (let pass = 0; pass < 2; pass++) {
    playedOf = matched(occurrences, playing, score, clock).playedOf;
    clock = clockOf(occurrences, playedOf, playing, score, clock);
  }
  const occurrenceOf = new Int32Array(playing.pitch.length).fill(-1);
  const isRight = new Uint8Array(playing.pitch.length);
  playedOf.forEach((row, index) => {
    if (row < 0) return;
    occurrenceOf[row] = index;
    isRight[row] = playing.pitch[row] === score.pitch[occurrences[index].row] ? 1 : 0;
  });
  return { passages, occurrences, playedOf, occurrenceOf, isRight, clock };
}

/** A stroke this far from where its neighbours let it be expected does not move the clock, in seconds. */
const STRAY = 0.25;

/** The clock by the middle of the strokes of each place; one place never before the one ahead of it. */
function clockOf(
  occurrences: readonly Occurrence[],
  playedOf: Int32Array,
  { seconds, pitch }: PlayedNotes,
  score: Score,
  before: Clock,
): Clock {
  const places: number[] = [];
  const times: number[] = [];
  let to = 0;
  while (to < occurrences.length) {
    const { place } = occurrences[to];
    const own: number[] = [];
    for (; to < occurrences.length && Math.abs(occurrences[to].place - place) < 1e-4; to++) {
      const row = playedOf[to];
      if (row < 0 || pitch[row] !== score.pitch[occurrences[to].row]) continue;
      if (Math.abs(seconds[row] - secondsAt(before, place)) <= STRAY) own.push(seconds[row]);
    }
    if (own.length === 0) continue;
    own.sort((a, b) => a - b);
    const time = own[(own.length - 1) >> 1];
    places.push(place);
    times.push(Math.max(time, times.at(-1) ?? -Infinity));
  }
  return places.length < 2 ? before : { at: Float64Array.from(places), seconds: Float64Array.from(times) };
}
