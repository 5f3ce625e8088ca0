import { barOfPlace, type Score } from './score';

/** Strokes that begin within so many seconds of the first of them are heard as one. */
const TOGETHER = 0.045;
/** Written places so close, in quarters, are played as one: what is left of strums and of values under 1/32. */
const ONE_CHORD = 1 / 12;
/** Of a chord so many notes are looked at. */
export const MOST_IN_CHORD = 32;

/** A performance to be followed: columns in order of start. */
export interface PlayedNotes {
  readonly seconds: Float64Array;
  readonly pitch: Uint8Array;
}

/** Rows that belong together, from `from[i]` up to `from[i + 1]`. */
export interface Grouped {
  readonly count: number;
  readonly from: Int32Array;
}

/** Strokes that were played together. */
export function strokesTogether({ seconds }: PlayedNotes): Grouped {
  return grouped(seconds.length, (row, first) => seconds[row] - seconds[first] <= TOGETHER);
}

/** Written notes at one place, or so close that they are played as one. */
export interface Chords extends Grouped {
  /** In quarters. */
  readonly at: Float64Array;
  /** Index of its bar. */
  readonly bar: Int32Array;
  /** For each bar the first chord in it or behind it. */
  readonly firstOfBar: Int32Array;
}

export function chordsOf(score: Score): Chords {
  const { count, from } = grouped(score.length, (row, first) => score.at[row] - score.at[first] < ONE_CHORD);
  const at = Float64Array.from({ length: count }, (_, chord) => score.at[from[chord]]);
  const bar = Int32Array.from(at, (place) => barOfPlace(score, place));
  const bars = score.bars.length - 1;
  const firstOfBar = new Int32Array(bars).fill(count);
  for (let chord = count - 1; chord >= 0; chord--) firstOfBar[bar[chord]] = chord;
  for (let index = bars - 2; index >= 0; index--)
    firstOfBar[index] = Math.min(firstOfBar[index], firstOfBar[index + 1]);
  return { count, from, at, bar, firstOfBar };
}

function grouped(length: number, isWith: (row: number, first: number) => boolean): Grouped {
  const starts: number[] = [];
  for (let row = 0; row < length; row++)
    if (starts.length === 0 || !isWith(row, starts[starts.length - 1])) starts.push(row);
  starts.push(length);
  return { count: starts.length - 1, from: Int32Array.from(starts) };
}
