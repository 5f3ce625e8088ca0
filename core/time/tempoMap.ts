import { DEFAULT_MICROSECONDS_PER_QUARTER, frameRate, type Division } from './division';
import { lastAtOrBefore } from './search';

/** From `tick` on, a quarter note lasts so many microseconds (a whole number in a file). */
export interface TempoChange {
  tick: number;
  microsecondsPerQuarter: number;
}

/**
 * Ticks <-> seconds, piecewise linear. Columns of equal length, one row a stretch of steady tempo:
 * where it starts in ticks and in seconds, and how long one tick lasts in it.
 */
export interface TempoMap {
  tick: Float64Array;
  second: Float64Array;
  secondsPerTick: Float64Array;
  microsecondsPerQuarter: Float64Array;
}

/**
 * Builds the map from tempo changes in ticks of `division`. The last change at a tick wins; before the first
 * change 120 bpm holds. In SMPTE division a tick's duration is fixed and tempo changes do not bend time.
 */
export function createTempoMap(division: Division, changes: readonly TempoChange[]): TempoMap {
  const rows = effectiveTempos(changes);
  const count = rows.length;
  const map: TempoMap = {
    tick: new Float64Array(count),
    second: new Float64Array(count),
    secondsPerTick: new Float64Array(count),
    microsecondsPerQuarter: new Float64Array(count),
  };
  let sum = 0;
  let lost = 0;
  rows.forEach((row, index) => {
    if (index > 0) {
      // Neumaier's compensated sum: ten thousand short stretches must not add up to an audible error.
      const term = (row.tick - rows[index - 1].tick) * map.secondsPerTick[index - 1];
      const next = sum + term;
      lost += Math.abs(sum) >= Math.abs(term) ? sum - next + term : term - next + sum;
      sum = next;
    }
    map.tick[index] = row.tick;
    map.second[index] = sum + lost;
    map.microsecondsPerQuarter[index] = row.microsecondsPerQuarter;
    map.secondsPerTick[index] =
      division.kind === 'metrical'
        ? row.microsecondsPerQuarter / (1e6 * division.ticksPerQuarter)
        : 1 / (frameRate(division.framesPerSecond) * division.ticksPerFrame);
  });
  return map;
}

/** The tempos in force, sorted, one a tick, with the default at tick 0 when the file names none there. */
export function effectiveTempos(changes: readonly TempoChange[]): TempoChange[] {
  const sorted = [...changes].sort((a, b) => a.tick - b.tick);
  const rows: TempoChange[] = [];
  if (sorted.length === 0 || sorted[0].tick > 0) {
    rows.push({ tick: 0, microsecondsPerQuarter: DEFAULT_MICROSECONDS_PER_QUARTER });
  }
  for (const change of sorted) {
    const last = rows[rows.length - 1];
    if (last && last.tick === change.tick) rows[rows.length - 1] = change;
    else rows.push(change);
  }
  return rows;
}

/**
 * Seconds from the start to `tick` (any real number; before 0 the first tempo is carried back).
 *
 * @public
 */
export function ticksToSeconds(map: TempoMap, tick: number): number {
  const row = map.tick.length === 1 ? 0 : lastAtOrBefore(map.tick, tick);
  return map.second[row] + (tick - map.tick[row]) * map.secondsPerTick[row];
}

/**
 * The tick (a real number) at `second`; the inverse of `ticksToSeconds`.
 *
 * @public
 */
export function secondsToTicks(map: TempoMap, second: number): number {
  const row = map.tick.length === 1 ? 0 : lastAtOrBefore(map.second, second);
  return map.tick[row] + (second - map.second[row]) / map.secondsPerTick[row];
}

/** Beats (quarter notes) a minute from the file's own unit. */
export function bpmOf(microsecondsPerQuarter: number): number {
  return 60e6 / microsecondsPerQuarter;
}

/** The whole number of microseconds a quarter that a file writes for a tempo. */
export function microsecondsOf(bpm: number): number {
  return Math.round(60e6 / bpm);
}
