import { rowsById, type NoteTable } from '../model';
import { createPull, gridsOf, touchedRows, type QuantizeStep } from '../steps';
import {
  createGrid,
  nearestLine,
  nearestLines,
  secondsToTicks,
  ticksToSeconds,
  type NoteValue,
  type Timeline,
} from '../time';

/**
 * What a step does to starts, in milliseconds. `typical` is the median and `largest` the greatest of the moves of the
 * notes that moved. `spreadBefore` and `spreadAfter` are the root mean square distance of the touched starts from
 * their nearest lines, before and after.
 */
export interface MoveReading {
  touched: number;
  moved: number;
  typicalMs: number;
  largestMs: number;
  spreadBeforeMs: number;
  spreadAfterMs: number;
  /** How late they are on average, before and after; early below 0. */
  meanBeforeMs: number;
  meanAfterMs: number;
  /**
   * Counts of distances from the line before and after, in `HISTOGRAM_BINS` bins over ± `histogramReachMs`; `beyond`
   * counts those farther out.
   */
  histogramReachMs: number;
  histogramBefore: Uint32Array;
  histogramAfter: Uint32Array;
  beyond: { before: number; after: number };
}

export const HISTOGRAM_BINS = 33;

/**
 * Reads a quantize step: `before` goes in, `after` came out. Moves under half a tick do not count: no file can hold
 * them. `kept` says how far from its line the step means a note to be, in ms by id.
 */
export function readMoves(
  before: NoteTable,
  after: NoteTable,
  step: QuantizeStep,
  timeline: Timeline,
  kept: ReadonlyMap<number, number> = NOTHING_KEPT,
): MoveReading {
  const touched = touchedRows(before, step.where, timeline);
  const rowAfter = rowsById(after).rowOf;
  const pull = createPull(step, timeline);
  const second = (tick: number) => ticksToSeconds(timeline.tempo, tick);
  const useEnds = step.edge === 'end';
  const from = useEnds ? before.end : before.start;
  const to = useEnds ? after.end : after.start;
  const [linesBefore, linesAfter] = [new Float64Array(from.length), new Float64Array(to.length)];
  pull.lines(from, linesBefore);
  pull.lines(to, linesAfter);
  const line = lineBeside(step, timeline);
  const offsetsBefore: number[] = [];
  const offsetsAfter: number[] = [];
  const moves: number[] = [];
  for (let row = 0; row < before.length; row++) {
    if (!touched[row]) continue;
    const other = rowAfter(before.id[row]);
    if (other < 0) continue;
    const own = useEnds ? undefined : kept.get(before.id[row]);
    if (own !== undefined) {
      // What is meant to be off is as far off as it is from there.
      offsetsBefore.push(second(from[row]) * 1000 - meantNear(second(from[row]), own, line));
      offsetsAfter.push(second(to[other]) * 1000 - meantNear(second(to[other]), own, line));
    } else {
      offsetsBefore.push((second(from[row]) - second(linesBefore[row])) * 1000);
      offsetsAfter.push((second(to[other]) - second(linesAfter[other])) * 1000);
    }
    const moved = Math.abs(to[other] - from[row]);
    const movedEnd = Math.abs(after.end[other] - before.end[row]);
    if (Math.max(moved, movedEnd) >= 0.5) moves.push(Math.abs(second(to[other]) - second(from[row])) * 1000);
  }
  const reach = niceReach(offsetsBefore);
  return {
    touched: offsetsBefore.length,
    moved: moves.length,
    typicalMs: median(moves),
    largestMs: moves.reduce((most, value) => Math.max(most, value), 0),
    spreadBeforeMs: rootMeanSquare(offsetsBefore),
    spreadAfterMs: rootMeanSquare(offsetsAfter),
    meanBeforeMs: meanOf(offsetsBefore),
    meanAfterMs: meanOf(offsetsAfter),
    histogramReachMs: reach,
    histogramBefore: histogram(offsetsBefore, reach),
    histogramAfter: histogram(offsetsAfter, reach),
    beyond: { before: countBeyond(offsetsBefore, reach), after: countBeyond(offsetsAfter, reach) },
  };
}

const meanOf = (values: readonly number[]): number =>
  values.length === 0 ? 0 : values.reduce((sum, value) => sum + value, 0) / values.length;

const NOTHING_KEPT: ReadonlyMap<number, number> = new Map();

/** The line of a step's grid, not shifted, that is nearest to a time; seconds. */
function lineBeside(step: QuantizeStep, { meter, tempo }: Timeline): (second: number) => number {
  const grid = createGrid(meter, gridsOf(step), step.swing);
  const place = { line: 0, step: 0 };
  return (second) =>
    ticksToSeconds(tempo, nearestLine(grid, Math.max(0, secondsToTicks(tempo, second)), place).line);
}

/** Where a note that is meant to be `own` ms off its line is meant to be, near where it is; ms. */
const meantNear = (second: number, own: number, line: (second: number) => number): number =>
  line(second - own / 1000) * 1000 + own;

/** For each note how late its start is against the nearest line of a grid, in milliseconds (early below 0). */
export function latenessOf(
  notes: NoteTable,
  values: readonly NoteValue[],
  swing: number,
  timeline: Timeline,
): Float32Array {
  const grid = createGrid(timeline.meter, values, swing);
  const lines = new Float64Array(notes.length);
  nearestLines(grid, notes.start, lines);
  const late = new Float32Array(notes.length);
  for (let row = 0; row < notes.length; row++) {
    late[row] =
      (ticksToSeconds(timeline.tempo, notes.start[row]) - ticksToSeconds(timeline.tempo, lines[row])) * 1000;
  }
  return late;
}

/** Root mean square of `latenessOf`: how far a part is off the grid, in milliseconds. */
export function offMsOf(lateness: Float32Array): number {
  return rootMeanSquare(lateness);
}

export function median(values: readonly number[]): number {
  return middleOf(Float64Array.from(values).sort());
}

/** The median of values that are sorted; 0 of none. */
export function middleOf(sorted: Float64Array): number {
  if (sorted.length === 0) return 0;
  const middle = sorted.length >> 1;
  return sorted.length % 2 === 1 ? sorted[middle] : (sorted[middle - 1] + sorted[middle]) / 2;
}

function rootMeanSquare(values: ArrayLike<number>): number {
  if (values.length === 0) return 0;
  let sum = 0;
  for (let index = 0; index < values.length; index++) sum += values[index] * values[index];
  return Math.sqrt(sum / values.length);
}

/** A round reach that holds most of the offsets: the 95th percentile, up to the next 20 ms. */
function niceReach(offsets: readonly number[]): number {
  if (offsets.length === 0) return 40;
  const sizes = Float64Array.from(offsets, Math.abs).sort();
  const most = sizes[Math.floor((sizes.length - 1) * 0.95)];
  return Math.max(20, Math.ceil(most / 20) * 20);
}

function histogram(offsets: readonly number[], reach: number): Uint32Array {
  const bins = new Uint32Array(HISTOGRAM_BINS);
  for (const offset of offsets) {
    if (Math.abs(offset) > reach) continue;
    bins[Math.min(HISTOGRAM_BINS - 1, Math.floor(((offset + reach) / (2 * reach)) * HISTOGRAM_BINS))]++;
  }
  return bins;
}

const countBeyond = (offsets: readonly number[], reach: number): number =>
  offsets.reduce((count, offset) => count + (Math.abs(offset) > reach ? 1 : 0), 0);
