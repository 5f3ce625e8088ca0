import type { LanePoints } from './lane';
import { filterPoints } from './lane';

/**
 * Looks at points, for each point there is, after which splitting gives way to one pass: deep splits would cost the
 * square of the points.
 */
const LOOKS = 40;

/**
 * Thins points: which to keep so that none that goes is farther, in value, than `tolerance` from the line between its
 * kept neighbours. First and last stay. Ramer 1972; Douglas and Peucker 1973, with the distance taken in value, since
 * time is not of the same kind. Where points swing so evenly that splitting peels off one at a time, what is left is
 * gone through once (`keepByCone`).
 */
export function thinned(points: LanePoints, tolerance: number): LanePoints {
  const keep = new Uint8Array(points.length).fill(1);
  markThinned(points, tolerance, 0, points.length, keep);
  return filterPoints(points, (_, row) => keep[row] === 1);
}

/** The same for the rows from `begin` up to, not including, `stop`: those that go are marked 0 in `keep`. */
export function markThinned(
  points: LanePoints,
  tolerance: number,
  begin: number,
  stop: number,
  keep: Uint8Array,
): void {
  const { tick, value } = points;
  const length = stop - begin;
  if (length <= 2) return;
  keep.fill(0, begin + 1, stop - 1);
  const stack: number[] = [begin, stop - 1];
  let looks = LOOKS * length;
  while (stack.length > 0) {
    const last = stack.pop() ?? 0;
    const first = stack.pop() ?? 0;
    looks -= last - first;
    if (looks < 0) {
      keepByCone(points, first, last, tolerance, keep);
      continue;
    }
    const span = tick[last] - tick[first];
    const slope = span === 0 ? 0 : (value[last] - value[first]) / span;
    let [worst, at] = [tolerance, -1];
    for (let row = first + 1; row < last; row++) {
      const off = Math.abs(value[row] - (value[first] + slope * (tick[row] - tick[first])));
      if (off > worst) {
        worst = off;
        at = row;
      }
    }
    if (at < 0) continue;
    keep[at] = 1;
    stack.push(first, at, at, last);
  }
}

/**
 * Thins the rows from `begin` up to, not including, `stop` as they are heard: a point goes when it is at most
 * `tolerance` from the value that the last kept point before it holds. Kept points keep their values; the first and
 * the last stay.
 */
export function markThinnedAsHeld(
  { value }: LanePoints,
  tolerance: number,
  begin: number,
  stop: number,
  keep: Uint8Array,
): void {
  let held = value[begin];
  for (let row = begin + 1; row < stop - 1; row++) {
    if (Math.abs(value[row] - held) <= tolerance) keep[row] = 0;
    else held = value[row];
  }
}

/**
 * Keeps points between two by one pass: from each kept point lines go on within the cone that leaves every point
 * passed within the tolerance; the last point inside the cone before it closes is kept next.
 */
function keepByCone(points: LanePoints, first: number, last: number, tolerance: number, keep: Uint8Array) {
  const { tick, value } = points;
  let from = first;
  while (from < last) {
    let [low, high] = [-Infinity, Infinity];
    let next = from + 1;
    for (let row = from + 1; row <= last && low <= high; row++) {
      const span = tick[row] - tick[from];
      if (span === 0) {
        // Several points at one tick have no line between them: each is kept.
        if (row === from + 1) break;
        continue;
      }
      const slope = (value[row] - value[from]) / span;
      if (slope >= low && slope <= high) next = row;
      low = Math.max(low, (value[row] - tolerance - value[from]) / span);
      high = Math.min(high, (value[row] + tolerance - value[from]) / span);
    }
    keep[next] = 1;
    from = next;
  }
}

/** The largest error of a thinned lane, in value, and the row of the point it is at; -1 where there is none. */
export interface LargestError {
  error: number;
  row: number;
}

/** How far what is held after thinning is from what was held before, at the most. */
export function largestHeldError(all: LanePoints, kept: LanePoints): LargestError {
  const largest = { error: 0, row: -1 };
  for (let row = 0, at = 0; row < all.length; row++) {
    while (at + 1 < kept.length && kept.tick[at + 1] <= all.tick[row]) at++;
    const error = kept.length > 0 ? Math.abs(all.value[row] - kept.value[at]) : 0;
    if (error > largest.error) Object.assign(largest, { error, row });
  }
  return largest;
}

/**
 * The farthest, in value, that any of some points is from the line between its neighbours among those kept; a kept
 * one is on it.
 */
export function largestError(all: LanePoints, kept: LanePoints): LargestError {
  const largest = { error: 0, row: -1 };
  let at = 0;
  for (let row = 0; row < all.length; row++) {
    if (at < kept.length && all.tick[row] === kept.tick[at] && all.value[row] === kept.value[at]) {
      at++;
      continue;
    }
    const [from, to] = [at - 1, at];
    if (from < 0 || to >= kept.length) continue;
    const span = kept.tick[to] - kept.tick[from];
    const along = span === 0 ? 0 : (all.tick[row] - kept.tick[from]) / span;
    const line = kept.value[from] + (kept.value[to] - kept.value[from]) * along;
    const error = Math.abs(all.value[row] - line);
    if (error > largest.error) Object.assign(largest, { error, row });
  }
  return largest;
}

/**
 * Smooths values: each becomes the mean of the points at most half of `window` away from it in time. `time` gives
 * each point's place in the window's unit; only points marked 1 change, but all are looked at.
 */
export function smoothed(
  points: LanePoints,
  time: Float64Array,
  window: number,
  marked: Uint8Array,
): Float64Array {
  const half = window / 2 + 1e-9;
  const result = points.value.slice();
  let [first, end, sum] = [0, 0, 0];
  for (let row = 0; row < points.length; row++) {
    while (end < points.length && time[end] - time[row] <= half) sum += points.value[end++];
    while (time[row] - time[first] > half) sum -= points.value[first++];
    if (marked[row] === 1) result[row] = sum / (end - first);
  }
  return result;
}

export const RAMP_SHAPES = ['line', 'ease', 'slowStart', 'slowEnd'] as const;
export type RampShape = (typeof RAMP_SHAPES)[number];

/**
 * Where a ramp stands (0-1) when the share `along` (0-1) of its time is over. "ease" is slow at both ends
 * (smoothstep).
 */
export function rampAt(shape: RampShape, along: number): number {
  if (shape === 'ease') return along * along * (3 - 2 * along);
  if (shape === 'slowStart') return along * along;
  if (shape === 'slowEnd') return 1 - (1 - along) * (1 - along);
  return along;
}

export const WAVE_SHAPES = ['sine', 'triangle', 'square'] as const;
export type WaveShape = (typeof WAVE_SHAPES)[number];

/** A wave of height ±1 at a phase in periods; all begin at 0 and go up (the square at its top). */
export function waveAt(shape: WaveShape, phase: number): number {
  const at = phase - Math.floor(phase);
  if (shape === 'square') return at < 0.5 ? 1 : -1;
  if (shape === 'triangle') return at < 0.25 ? 4 * at : at < 0.75 ? 2 - 4 * at : 4 * at - 4;
  return Math.sin(2 * Math.PI * at);
}

/** The value in force at a tick: that of the last point at or before it, else `resting`. */
export function heldValue(points: LanePoints, tick: number, resting: number): number {
  let [low, high] = [0, points.length];
  while (low < high) {
    const middle = (low + high) >> 1;
    if (points.tick[middle] <= tick) low = middle + 1;
    else high = middle;
  }
  return low === 0 ? resting : points.value[low - 1];
}
