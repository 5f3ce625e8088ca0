import { lastAtOrBefore } from './search';

/** From `tick` on bars hold `numerator` beats of 1/`denominator`; a change always begins a new bar. */
export interface MeterChange {
  tick: number;
  numerator: number;
  denominator: number;
}

/** Bars laid over ticks. Columns, one row a stretch of one meter. Bars are counted from 1 by people, from 0 here. */
export interface MeterMap {
  ticksPerQuarter: number;
  tick: Float64Array;
  /** Index of the first bar of the stretch, from 0. */
  firstBar: Float64Array;
  barTicks: Float64Array;
  beatTicks: Float64Array;
  numerator: Float64Array;
  denominator: Float64Array;
}

/** One bar: its number from 1, where it starts and ends in ticks. */
export interface Bar {
  number: number;
  start: number;
  end: number;
  row: number;
}

/**
 * Builds the map. The last change at a tick wins; 4/4 holds where the file names no meter (RP-001). A change
 * inside a bar cuts that bar short there, as every notation program and player takes it (common practice).
 */
export function createMeterMap(ticksPerQuarter: number, changes: readonly MeterChange[]): MeterMap {
  const rows = effectiveMeters(changes);
  const column = () => new Float64Array(rows.length);
  const map: MeterMap = {
    ticksPerQuarter,
    tick: column(),
    firstBar: column(),
    barTicks: column(),
    beatTicks: column(),
    numerator: column(),
    denominator: column(),
  };
  rows.forEach((row, index) => {
    map.tick[index] = row.tick;
    map.beatTicks[index] = (ticksPerQuarter * 4) / row.denominator;
    map.barTicks[index] = map.beatTicks[index] * row.numerator;
    map.numerator[index] = row.numerator;
    map.denominator[index] = row.denominator;
    if (index > 0) {
      const bars = Math.ceil((row.tick - map.tick[index - 1]) / map.barTicks[index - 1] - 1e-9);
      map.firstBar[index] = map.firstBar[index - 1] + bars;
    }
  });
  return map;
}

/** The meters in force, sorted, one a tick, with 4/4 at tick 0 when the file names none there. */
export function effectiveMeters(changes: readonly MeterChange[]): MeterChange[] {
  const sorted = [...changes].sort((a, b) => a.tick - b.tick);
  const rows: MeterChange[] = [];
  if (sorted.length === 0 || sorted[0].tick > 0) rows.push({ tick: 0, numerator: 4, denominator: 4 });
  for (const change of sorted) {
    if (rows.length > 0 && rows[rows.length - 1].tick === change.tick) rows[rows.length - 1] = change;
    else rows.push(change);
  }
  return rows;
}

/** Which stretch of one meter a tick lies in. */
export function meterRowAt(map: MeterMap, tick: number): number {
  return map.tick.length === 1 ? 0 : lastAtOrBefore(map.tick, tick);
}

/** The bar a tick lies in; ticks before 0 count in bars before the first. */
export function barAt(map: MeterMap, tick: number): Bar {
  const row = meterRowAt(map, tick);
  return barOfRow(map, row, barIndexAt(map, row, tick));
}

/**
 * Which bar of a stretch of one meter a tick lies in, from 0. Bars of film frames are no whole ticks long, so that a
 * division may find the start of a bar in the bar before it: what counts is where bars start, as everything else
 * takes it.
 */
export function barIndexAt(map: MeterMap, row: number, tick: number): number {
  const [first, length] = [map.tick[row], map.barTicks[row]];
  const index = Math.floor((tick - first) / length);
  if (first + (index + 1) * length <= tick) return index + 1;
  return first + index * length > tick ? index - 1 : index;
}

/** The bar with a number from 1 upward; numbers past the last meter change go on in its meter. */
export function barNumbered(map: MeterMap, number: number): Bar {
  const row = map.tick.length === 1 ? 0 : lastAtOrBefore(map.firstBar, number - 1);
  return barOfRow(map, row, number - 1 - map.firstBar[row]);
}

function barOfRow(map: MeterMap, row: number, index: number): Bar {
  const start = map.tick[row] + index * map.barTicks[row];
  const limit = row + 1 < map.tick.length ? map.tick[row + 1] : Infinity;
  return {
    number: map.firstBar[row] + index + 1,
    start,
    end: Math.min(map.tick[row] + (index + 1) * map.barTicks[row], limit),
    row,
  };
}

/** A place as a person reads it: bar and beat from 1, and whole ticks into the beat. */
export interface Position {
  bar: number;
  beat: number;
  tick: number;
}

/** Bar, beat and tick of a place; the inverse of `tickAtPosition` on whole ticks. */
export function positionAt(map: MeterMap, tick: number): Position {
  const whole = Math.round(tick);
  const bar = barAt(map, whole);
  const into = whole - bar.start;
  const beatTicks = map.beatTicks[bar.row];
  const beat = Math.floor(into / beatTicks + 1e-9);
  return { bar: bar.number, beat: beat + 1, tick: Math.round(into - beat * beatTicks) };
}

/** The tick of a bar, beat and tick. */
export function tickAtPosition(map: MeterMap, position: Position): number {
  const bar = barNumbered(map, position.bar);
  return bar.start + (position.beat - 1) * map.beatTicks[bar.row] + position.tick;
}
