import type { NoteTable } from '../model';
import { touchedRows, type Where } from '../steps';
import { ticksToSeconds, type Timeline } from '../time';
import { momentsOf } from './deviations';
import { middleOf } from './readings';

/** Counts of a value before and after a step, in bins of `width` from 0 up; the last bin holds all that is larger. */
export interface ValueReading {
  /** Velocities 1-127, or lengths in ms. */
  unit: 'velocity' | 'ms';
  width: number;
  before: Uint32Array;
  after: Uint32Array;
  medianBefore: number;
  medianAfter: number;
  /** Standard deviation: how uneven they are. */
  deviationBefore: number;
  deviationAfter: number;
  changed: number;
  touched: number;
}

export const VALUE_BINS = 32;

/**
 * Reads what a step does to the velocities, or the lengths, of the notes it touches. Notes it removes count before
 * only.
 */
export function readValues(
  before: NoteTable,
  after: NoteTable,
  unit: ValueReading['unit'],
  where: Where,
  timeline: Timeline,
): ValueReading {
  const touched = touchedRows(before, where, timeline);
  const rowAfter = new Map<number, number>();
  for (let row = 0; row < after.length; row++) rowAfter.set(after.id[row], row);
  const second = (tick: number) => ticksToSeconds(timeline.tempo, tick);
  const valueOf = (table: NoteTable, row: number) =>
    unit === 'velocity' ? table.velocity[row] : (second(table.end[row]) - second(table.start[row])) * 1000;
  const [was, is]: [number[], number[]] = [[], []];
  let changed = 0;
  for (let row = 0; row < before.length; row++) {
    if (touched[row] === 0) continue;
    const value = valueOf(before, row);
    was.push(value);
    const other = rowAfter.get(before.id[row]);
    if (other === undefined) continue;
    const next = valueOf(after, other);
    is.push(next);
    if (Math.round(next) !== Math.round(value)) changed++;
  }
  const [sortedWas, sortedIs] = [Float64Array.from(was).sort(), Float64Array.from(is).sort()];
  const width = unit === 'velocity' ? 128 / VALUE_BINS : niceWidth(sortedWas, sortedIs);
  return {
    unit,
    width,
    before: binned(was, width),
    after: binned(is, width),
    medianBefore: middleOf(sortedWas),
    medianAfter: middleOf(sortedIs),
    deviationBefore: was.length === 0 ? 0 : momentsOf(sortedWas).deviation,
    deviationAfter: is.length === 0 ? 0 : momentsOf(sortedIs).deviation,
    changed,
    touched: was.length,
  };
}

/** A round width so that nineteen of twenty values fall short of the last bin. */
function niceWidth(...lists: Float64Array[]): number {
  const most = Math.max(...lists.map((sorted) => sorted[Math.floor((sorted.length - 1) * 0.95)] ?? 0));
  const wanted = most / (VALUE_BINS - 1);
  return [1, 2, 5, 10, 20, 25, 50, 100, 200, 250, 500, 1000].find((width) => width >= wanted) ?? 5000;
}

function binned(values: readonly number[], width: number): Uint32Array {
  const bins = new Uint32Array(VALUE_BINS);
  for (const value of values) bins[Math.min(VALUE_BINS - 1, Math.max(0, Math.floor(value / width)))]++;
  return bins;
}
