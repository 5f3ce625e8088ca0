import type { NoteTable } from '../model';
import { ticksToSeconds, type TempoMap } from '../time';

/**
 * From here on a note off the grid is trouble, in ms: about where two onsets begin to be heard as two (common
 * practice: 20 to 30).
 */
export const TROUBLE_MS = 20;
/** Troubled notes nearer to each other than this many seconds are one place. */
const ONE_PLACE_SECONDS = 0.5;

/** Some notes close together that are off the grid. */
export interface Trouble {
  /** First start and last end, in ticks. */
  from: number;
  to: number;
  rows: number[];
  /** The lateness of the worst of them in ms; early below 0. */
  worst: number;
}

/**
 * The places where notes are farther off the grid than `TROUBLE_MS`, in order of time. `late` has the lateness of
 * each note in ms.
 */
export function troublesOf(
  notes: Pick<NoteTable, 'length' | 'start' | 'end'>,
  late: ArrayLike<number>,
  tempo: TempoMap,
): Trouble[] {
  const troubles: Trouble[] = [];
  let last: Trouble | undefined;
  let lastSecond = -Infinity;
  for (let row = 0; row < notes.length; row++) {
    if (!(Math.abs(late[row]) > TROUBLE_MS)) continue;
    const second = ticksToSeconds(tempo, notes.start[row]);
    if (!last || second - lastSecond > ONE_PLACE_SECONDS)
      troubles.push((last = { from: notes.start[row], to: notes.end[row], rows: [], worst: 0 }));
    last.rows.push(row);
    last.to = Math.max(last.to, notes.end[row]);
    if (Math.abs(late[row]) > Math.abs(last.worst)) last.worst = late[row];
    lastSecond = second;
  }
  return troubles;
}

/** How late and how early a part is along its length: the most in each of some stretches of equal length, in ms. */
export interface LatenessStrip {
  late: Float32Array;
  early: Float32Array;
}

/** The lateness of some notes along `endTick` ticks, in so many stretches. */
export function latenessStrip(
  start: Float64Array,
  lateness: ArrayLike<number>,
  endTick: number,
  count: number,
): LatenessStrip {
  const [late, early] = [new Float32Array(count), new Float32Array(count)];
  const scale = count / Math.max(1, endTick);
  for (let row = 0; row < start.length; row++) {
    const bin = Math.min(count - 1, Math.max(0, Math.floor(start[row] * scale)));
    const own = lateness[row];
    if (own > late[bin]) late[bin] = own;
    else if (-own > early[bin]) early[bin] = -own;
  }
  return { late, early };
}

/**
 * A round reach that holds nearly all of a strip, in ms: what lies beyond is cut, so that one note far off does not
 * flatten the rest.
 */
export function reachOfStrip({ late, early }: LatenessStrip): number {
  const sizes = Float32Array.from([...late, ...early].filter((value) => value > 0)).sort();
  const most = sizes.length === 0 ? 0 : sizes[Math.floor((sizes.length - 1) * 0.97)];
  return Math.max(20, Math.ceil(most / 10) * 10);
}
