import { barIndexAt, meterRowAt, type MeterMap } from './meterMap';
import { quartersOf, type NoteValue } from './noteValue';

/** Where a place falls on a grid: its nearest line in ticks, and the step of the grid that line belongs to. */
export interface GridPlace {
  line: number;
  step: number;
}

/**
 * Lines over the bars. Each bar starts its lines anew, so a grid never runs out of phase with the meter.
 * `steps` are the line distances in ticks, one a grid; swing (a fraction, 0.5 straight) applies to a single grid.
 */
export interface Grid {
  meter: MeterMap;
  steps: number[];
  swing: number;
}

/** Ticks; nearer than this counts as a tie, so that a tuplet's thirds do not tip a note by rounding. */
const TIE = 1e-6;

/** Lays note values over a meter map. `swing` is a percentage, 50-75; several values take none. */
export function createGrid(meter: MeterMap, values: readonly NoteValue[], swing = 50): Grid {
  const steps = values.map((value) => quartersOf(value) * meter.ticksPerQuarter);
  return { meter, steps, swing: steps.length === 1 ? swing / 100 : 0.5 };
}

/** Finds the line nearest to `tick`, an exact tie going to the earlier one; writes into `place` and returns it. */
export function nearestLine(grid: Grid, tick: number, place: GridPlace): GridPlace {
  const { meter, steps } = grid;
  const row = meterRowAt(meter, tick);
  const barTicks = meter.barTicks[row];
  const barStart = meter.tick[row] + barIndexAt(meter, row, tick) * barTicks;
  let length = barTicks;
  if (row + 1 < meter.tick.length && barStart + length > meter.tick[row + 1]) {
    length = meter.tick[row + 1] - barStart;
  }
  const into = tick - barStart;
  let line = nearestInBar(into, steps[0], grid.swing, length);
  let step = steps[0];
  for (let index = 1; index < steps.length; index++) {
    const other = nearestInBar(into, steps[index], 0.5, length);
    const gain = Math.abs(into - line) - Math.abs(into - other);
    const sameLine = Math.abs(other - line) <= TIE;
    if (sameLine) step = Math.max(step, steps[index]);
    else if (gain > TIE || (gain >= -TIE && other < line)) {
      line = other;
      step = steps[index];
    }
  }
  place.line = barStart + line;
  place.step = step;
  return place;
}

/**
 * The nearest line of every tick of a column, written into `lines`. The same answers as `nearestLine`; where there is
 * one grid under one meter whose bars hold whole pairs of steps, lines repeat every pair and plain loops find them,
 * as this runs for every note at every move of a slider.
 */
export function nearestLines(grid: Grid, ticks: Float64Array, lines: Float64Array): void {
  const repeats = grid.meter.tick.length === 1 && grid.steps.length === 1 && barHoldsWholePairs(grid);
  if (repeats) {
    if (grid.swing === 0.5) straightLines(grid, ticks, lines);
    else swungLines(grid, ticks, lines);
    return;
  }
  const place = { line: 0, step: 0 };
  for (let row = 0; row < ticks.length; row++) {
    nearestLine(grid, ticks[row], place);
    lines[row] = place.line;
  }
}

function barHoldsWholePairs({ meter, steps }: Grid): boolean {
  const pairs = meter.barTicks[0] / (2 * steps[0]);
  return pairs > 0.5 && Math.abs(pairs - Math.round(pairs)) < 1e-9;
}

function straightLines({ meter, steps }: Grid, ticks: Float64Array, lines: Float64Array) {
  const origin = meter.tick[0];
  const step = steps[0];
  const half = 0.5 + TIE / 2 / step;
  for (let row = 0; row < ticks.length; row++) {
    lines[row] = origin + Math.ceil((ticks[row] - origin) / step - half) * step;
  }
}

function swungLines({ meter, steps, swing }: Grid, ticks: Float64Array, lines: Float64Array) {
  const origin = meter.tick[0];
  const pair = 2 * steps[0];
  const second = pair * swing;
  const firstHalf = second / 2 + TIE / 2;
  const secondHalf = (second + pair) / 2 + TIE / 2;
  for (let row = 0; row < ticks.length; row++) {
    const pairStart = origin + Math.floor((ticks[row] - origin) / pair) * pair;
    const into = ticks[row] - pairStart;
    lines[row] = pairStart + (into <= firstHalf ? 0 : into <= secondHalf ? second : pair);
  }
}

/**
 * Nearest of: the pair's first line, its swung second line, the next pair or the bar's end. All in ticks from the
 * bar.
 */
function nearestInBar(into: number, step: number, swing: number, length: number): number {
  const first = Math.floor(into / (2 * step)) * 2 * step;
  let best = first < length - TIE ? first : length;
  const second = first + 2 * step * swing;
  if (first + step < length - TIE && second < length - TIE) {
    if (Math.abs(into - second) < Math.abs(into - best) - TIE) best = second;
  }
  const next = Math.min(first + 2 * step, length);
  return Math.abs(into - next) < Math.abs(into - best) - TIE ? next : best;
}

/**
 * The distance between the lines on either side of each place, written into `gaps`; a place on a line counts as
 * before the line after it. The next bar's first line is a line of every grid.
 */
export function gapsAround(grid: Grid, ticks: Float64Array, gaps: Float64Array): void {
  const { meter, steps, swing } = grid;
  for (let row = 0; row < ticks.length; row++) {
    const at = meterRowAt(meter, ticks[row]);
    const barTicks = meter.barTicks[at];
    const barStart = meter.tick[at] + barIndexAt(meter, at, ticks[row]) * barTicks;
    const length = at + 1 < meter.tick.length ? Math.min(barTicks, meter.tick[at + 1] - barStart) : barTicks;
    const into = ticks[row] - barStart;
    let [below, above] = [-Infinity, length];
    for (const step of steps) {
      const first = Math.floor((into + TIE) / (2 * step)) * 2 * step;
      const second = first + 2 * step * swing;
      const isPast = into + TIE >= second && first + step < length - TIE;
      below = Math.max(below, isPast ? second : first);
      const next = isPast ? first + 2 * step : first + step < length - TIE ? second : length;
      above = Math.min(above, next);
    }
    gaps[row] = above - below;
  }
}

/** All lines with from <= tick < to, ascending, at most `limit` of them; for drawing. */
export function linesBetween(grid: Grid, from: number, to: number, limit = 5000): number[] {
  const lines: number[] = [];
  const { meter } = grid;
  let start = Math.max(0, from);
  while (start < to && lines.length < limit) {
    const row = meterRowAt(meter, start);
    const barTicks = meter.barTicks[row];
    const index = barIndexAt(meter, row, start);
    const barStart = meter.tick[row] + index * barTicks;
    const nextStart = meter.tick[row] + (index + 1) * barTicks;
    const barEnd = row + 1 < meter.tick.length ? Math.min(nextStart, meter.tick[row + 1]) : nextStart;
    for (const offset of linesOfBar(grid, barEnd - barStart, limit - lines.length)) {
      if (barStart + offset >= from && barStart + offset < to) lines.push(barStart + offset);
    }
    start = barEnd;
  }
  return lines;
}

function linesOfBar(grid: Grid, length: number, limit: number): number[] {
  const offsets = new Set<number>();
  for (const step of grid.steps) {
    for (let index = 0; index * step < length - TIE && offsets.size < limit; index++) {
      const swung = index % 2 === 1 ? (index - 1) * step + 2 * step * grid.swing : index * step;
      if (swung < length - TIE) offsets.add(swung);
    }
  }
  return [...offsets].sort((a, b) => a - b);
}
