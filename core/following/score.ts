import type { NoteTable } from '../model';
import { barNumbered, type MeterMap } from '../time';

/**
 * What is written, to be followed: columns, one row a note, in order of place, then pitch. Places and lengths are in
 * quarters from the start of the score, its repeats not taken.
 */
export interface Score {
  readonly length: number;
  readonly at: Float64Array;
  readonly lengths: Float64Array;
  readonly pitch: Uint8Array;
  readonly velocity: Float64Array;
  /** Where each bar starts, and behind the last where it ends. */
  readonly bars: Float64Array;
  /** From which quarter on bars are of which meter. */
  readonly meters: readonly ScoreMeter[];
  /** What the first bar is called: 0 where it is a pick-up. */
  readonly firstBar: 0 | 1;
  /** Bars, by index, in the order its repeats and jumps say; null: from first to last. */
  readonly order: readonly number[] | null;
}

export interface ScoreMeter {
  at: number;
  numerator: number;
  denominator: number;
}

/** How a score is laid out in bars; the fields of `Score`. */
export type ScoreBars = Pick<Score, 'meters' | 'firstBar' | 'order'> & { bars: ArrayLike<number> };

/** A written note, in quarters. */
export interface ScoreRow {
  at: number;
  length: number;
  pitch: number;
  velocity: number;
}

/** Places closer than this, in quarters, are one place: what is left of divisions that are no binary fractions. */
export const ONE_PLACE = 1 / 1920;

/** Bars of a score that is played from first to last. */
export const plainBars = (bars: ArrayLike<number>, meters: readonly ScoreMeter[] = []): ScoreBars => ({
  bars,
  meters,
  firstBar: 1,
  order: null,
});

/** A score of notes in any order. */
export function scoreOf(rows: readonly ScoreRow[], { bars, meters, firstBar, order }: ScoreBars): Score {
  // Sorted by whole parts, so that thirds that were added up differently are still one place.
  const whole = (at: number) => Math.round(at / ONE_PLACE);
  const sorted = [...rows].sort((a, b) => whole(a.at) - whole(b.at) || a.pitch - b.pitch);
  return {
    length: sorted.length,
    at: Float64Array.from(sorted, ({ at }) => at),
    lengths: Float64Array.from(sorted, ({ length }) => length),
    pitch: Uint8Array.from(sorted, ({ pitch }) => pitch),
    velocity: Float64Array.from(sorted, ({ velocity }) => velocity),
    bars: Float64Array.from(bars),
    meters,
    firstBar,
    order: order && order.every((bar, index) => bar === index) ? null : order,
  };
}

/** Notes taken as they are written: to the tick. */
export const rowsOfNotes = (
  { start, end, pitch, velocity }: NoteTable,
  ticksPerQuarter: number,
): ScoreRow[] =>
  Array.from(start, (tick, row) => ({
    at: tick / ticksPerQuarter,
    length: (end[row] - tick) / ticksPerQuarter,
    pitch: pitch[row],
    velocity: velocity[row],
  }));

/** The same as a score, in the bars of a meter. */
export function scoreOfNotes(notes: NoteTable, meter: MeterMap, ticksPerQuarter: number): Score {
  const rows = rowsOfNotes(notes, ticksPerQuarter);
  const last = rows.reduce((most, { at }) => Math.max(most, at), 0);
  return scoreOf(rows, barsOfMeter(meter, ticksPerQuarter, last));
}

/** The changes of a map of meters, in quarters. */
const metersOf = ({ tick, numerator, denominator }: MeterMap, ticksPerQuarter: number): ScoreMeter[] =>
  Array.from(tick, (at, row) => ({
    at: at / ticksPerQuarter,
    numerator: numerator[row],
    denominator: denominator[row],
  }));

/** More bars than this are no score. */
const MOST_BARS = 20_000;

/** The bars of a map of meters, in quarters, up to the end of the one a place lies in. */
export function barsOfMeter(meter: MeterMap, ticksPerQuarter: number, last: number): ScoreBars {
  const bars = [0];
  while (bars[bars.length - 1] <= last + ONE_PLACE && bars.length <= MOST_BARS)
    bars.push(barNumbered(meter, bars.length).end / ticksPerQuarter);
  return plainBars(bars, metersOf(meter, ticksPerQuarter));
}

/** The meter of a score at a place; 4/4 where it says none. */
export const meterAt = ({ meters }: Pick<Score, 'meters'>, at: number): Omit<ScoreMeter, 'at'> =>
  meters.findLast((meter) => meter.at <= at + ONE_PLACE) ?? { numerator: 4, denominator: 4 };

/** Which bar of a score a place lies in, by index; what lies behind the last is in it. */
export function barOfPlace({ bars }: Pick<Score, 'bars'>, at: number): number {
  let [low, high] = [0, bars.length - 2];
  while (low < high) {
    const middle = (low + high + 1) >> 1;
    if (bars[middle] <= at + ONE_PLACE) low = middle;
    else high = middle - 1;
  }
  return low;
}
