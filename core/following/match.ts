import type { PlayedNotes } from './chords';
import { secondsAt, type Clock, type Passage } from './passages';
import type { Score } from './score';

/** A written note as often as it was to be played. */
export interface Occurrence {
  /** Row of the score. */
  row: number;
  /** Unrolled quarters. */
  place: number;
  passage: number;
}

/** The written notes of the stretches that were played, one after the other. */
export function occurrencesOf(score: Score, passages: readonly Passage[]): Occurrence[] {
  return passages.flatMap((passage, index) => {
    const found: Occurrence[] = [];
    for (let row = firstFrom(score.at, passage.from - 1e-6); row < score.length; row++) {
      if (score.at[row] >= passage.to - 1e-6) break;
      found.push({ row, place: passage.at + score.at[row] - passage.from, passage: index });
    }
    return found;
  });
}

function firstFrom(column: Float64Array, value: number): number {
  let [low, high] = [0, column.length];
  while (low < high) {
    const middle = (low + high) >> 1;
    if (column[middle] < value) low = middle + 1;
    else high = middle;
  }
  return low;
}

/** A stroke may be so far from where its note is expected, in seconds; one of a wrong pitch so far. */
const [REACH, WRONG_REACH] = [0.3, 0.12];
/** Intervals in semitones that a wrong note is off. */
const WRONG = new Set([1, 2, 12]);

/**
 * For each occurrence the row that was played for it, or -1: of each pitch the cheapest pairs in order of time, then
 * wrong notes among what is left.
 */
export function matched(
  occurrences: readonly Occurrence[],
  playing: PlayedNotes,
  score: Score,
  clock: Clock,
): { playedOf: Int32Array; expected: Float64Array } {
  const expected = Float64Array.from(occurrences, ({ place }) => secondsAt(clock, place));
  const playedOf = new Int32Array(occurrences.length).fill(-1);
  const written = byPitch(occurrences.length, (index) => score.pitch[occurrences[index].row]);
  const played = byPitch(playing.pitch.length, (row) => playing.pitch[row]);
  for (let pitch = 0; pitch < 128; pitch++) {
    if (written[pitch].length === 0 || played[pitch].length === 0) continue;
    pairInOrder(written[pitch], played[pitch], expected, playing.seconds, playedOf);
  }
  pairWrong(occurrences, playing, score, expected, playedOf);
  return { playedOf, expected };
}

function byPitch(count: number, pitchOf: (index: number) => number): number[][] {
  const lists = Array.from({ length: 128 }, (): number[] => []);
  for (let index = 0; index < count; index++) lists[pitchOf(index)].push(index);
  return lists;
}

/**
 * Pairs of one pitch: least distance, as many as there are within reach, in order. Between gaps wider than the reach
 * nothing meets, so each cluster is worked out by itself.
 */
function pairInOrder(
  written: readonly number[],
  played: readonly number[],
  expected: Float64Array,
  seconds: Float64Array,
  playedOf: Int32Array,
) {
  let [w, p] = [0, 0];
  while (w < written.length && p < played.length) {
    const off = seconds[played[p]] - expected[written[w]];
    if (off > REACH) w++;
    else if (off < -REACH) p++;
    else {
      // The cluster: as long as the next of either lies within reach of the last of the other.
      let [wEnd, pEnd] = [w + 1, p + 1];
      for (let grows = true; grows;) {
        grows = false;
        while (wEnd < written.length && expected[written[wEnd]] - seconds[played[pEnd - 1]] <= REACH) {
          wEnd++;
          grows = true;
        }
        while (pEnd < played.length && seconds[played[pEnd]] - expected[written[wEnd - 1]] <= REACH) {
          pEnd++;
          grows = true;
        }
      }
      pairCluster(written.slice(w, wEnd), played.slice(p, pEnd), expected, seconds, playedOf);
      [w, p] = [wEnd, pEnd];
    }
  }
}

/** What leaving a note alone costs beside a pair at the reach, which costs 1. */
const ALONE = 0.6;
/** Within a cluster nothing is looked for further than so many notes out of step. */
const BAND = 40;

function pairCluster(
  written: readonly number[],
  played: readonly number[],
  expected: Float64Array,
  seconds: Float64Array,
  playedOf: Int32Array,
) {
  if (written.length === 1 && played.length === 1) {
    playedOf[written[0]] = played[0];
    return;
  }
  const [rows, columns] = [written.length, played.length];
  const width = Math.min(columns, 2 * BAND + Math.abs(rows - columns)) + 1;
  // The band follows the times, so that a long passage of extra notes does not leave it.
  const lows = new Int32Array(rows + 1);
  for (let row = 1, near = 0; row <= rows; row++) {
    while (near < columns && seconds[played[near]] < expected[written[row - 1]]) near++;
    lows[row] = Math.max(lows[row - 1], Math.min(columns - width + 1, near - (width >> 1)));
  }
  const costs = new Float64Array((rows + 1) * width).fill(Infinity);
  const ways = new Uint8Array((rows + 1) * width);
  const costAt = (row: number, column: number) => {
    const at = column - lows[row];
    return at < 0 || at >= width ? Infinity : costs[row * width + at];
  };
  for (let row = 0; row <= rows; row++)
    for (let at = 0; at < width; at++) {
      const column = lows[row] + at;
      if (column > columns) break;
      let [best, way] = row === 0 && column === 0 ? [0, 0] : [Infinity, 0];
      if (column > 0) {
        const value = (at > 0 ? costs[row * width + at - 1] : Infinity) + ALONE;
        if (value < best) [best, way] = [value, 1];
      }
      if (row > 0) {
        const value = costAt(row - 1, column) + ALONE;
        if (value < best) [best, way] = [value, 2];
      }
      if (row > 0 && column > 0) {
        const off = Math.abs(seconds[played[column - 1]] - expected[written[row - 1]]) / REACH;
        const value = off <= 1 ? costAt(row - 1, column - 1) + off ** 2 : Infinity;
        if (value < best) [best, way] = [value, 3];
      }
      costs[row * width + at] = best;
      ways[row * width + at] = way;
    }
  let [row, column] = [rows, columns];
  while (row > 0 || column > 0) {
    const at = column - lows[row];
    const way = at >= 0 && at < width ? ways[row * width + at] : 2;
    if (way === 3) playedOf[written[row - 1]] = played[column - 1];
    if (way !== 1) row--;
    if (way !== 2) column--;
    if (row < 0 || column < 0 || way === 0) break;
  }
}

/** Strokes and written notes that are left, near in time and off by what a hand misses by: the nearest first. */
function pairWrong(
  occurrences: readonly Occurrence[],
  { seconds, pitch }: PlayedNotes,
  score: Score,
  expected: Float64Array,
  playedOf: Int32Array,
) {
  const taken = new Uint8Array(seconds.length);
  for (const row of playedOf) if (row >= 0) taken[row] = 1;
  const open = [...occurrences.keys()]
    .filter((index) => playedOf[index] < 0)
    .sort((a, b) => expected[a] - expected[b]);
  const pairs: { index: number; row: number; cost: number }[] = [];
  let from = 0;
  for (const index of open) {
    while (from < seconds.length && seconds[from] < expected[index] - WRONG_REACH) from++;
    for (let row = from; row < seconds.length && seconds[row] <= expected[index] + WRONG_REACH; row++) {
      const interval = Math.abs(pitch[row] - score.pitch[occurrences[index].row]);
      if (taken[row] === 1 || !WRONG.has(interval)) continue;
      const off = Math.abs(seconds[row] - expected[index]) / WRONG_REACH;
      pairs.push({ index, row, cost: off + (interval === 12 ? 0.3 : interval === 2 ? 0.1 : 0) });
    }
  }
  pairs.sort((a, b) => a.cost - b.cost);
  for (const { index, row } of pairs)
    if (playedOf[index] < 0 && taken[row] === 0) {
      playedOf[index] = row;
      taken[row] = 1;
    }
}
