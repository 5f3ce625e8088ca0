import { barNumbered, lastAtOrBefore, ticksToSeconds, type Bar, type Timeline } from '../time';
import { QUARTER, SMALLEST } from './units';

/** A beat of a bar: where notes are read in. */
export interface Beat {
  /** Units from the start of the music, and how many. */
  at: number;
  units: number;
  startTick: number;
  endTick: number;
  ms: number;
  /** Three eighths (or sixteenths) as one beat, as in 6/8. */
  isCompound: boolean;
  bar: number;
}

export interface BarFrame {
  number: number;
  at: number;
  units: number;
  startTick: number;
  endTick: number;
  numerator: number;
  denominator: number;
  isImplicit: boolean;
  beats: readonly Beat[];
}

/** Bars with their beats, in units of written time. */
export interface Frame {
  bars: readonly BarFrame[];
  beats: readonly Beat[];
  /** Units, real, of a tick. */
  unitsAt(tick: number): number;
  /** The bar and the beat a place lies in; what lies behind all, in the last. */
  barAt(units: number): BarFrame;
  beatAt(units: number): Beat;
  tickAt(units: number): number;
}

/** More bars than this are no music. */
const MOST_BARS = 20000;

/**
 * Beats of a whole bar of a meter, in units: quarters; threes of eighths or shorter values where they divide the bar;
 * irregular meters of eighths in twos, the last in three (common practice).
 */
export function beatsOfMeter(numerator: number, denominator: number): number[] {
  const unit = (4 * QUARTER) / denominator;
  if (denominator < 8)
    return Array<number>((numerator * 4) / Math.min(4, denominator)).fill(unit >= QUARTER ? QUARTER : unit);
  if (numerator % 3 === 0) return Array<number>(numerator / 3).fill(3 * unit);
  if (numerator % 2 === 0) return Array<number>(numerator / 2).fill(2 * unit);
  if (numerator === 1) return [unit];
  if (numerator === 5) return [3 * unit, 2 * unit];
  return [...Array<number>((numerator - 3) / 2).fill(2 * unit), 3 * unit];
}

/** The bars up to the one a tick lies in. */
export function frameOf(timeline: Timeline, lastTick: number): Frame {
  const { meter, tempo, ticksPerQuarter } = timeline;
  const perTick = QUARTER / ticksPerQuarter;
  const bars: BarFrame[] = [];
  let at = 0;
  for (let number = 1; number <= MOST_BARS; number++) {
    const bar = barNumbered(meter, number);
    // A bar that is cut short at any tick is written by the smallest value there is.
    const units = SMALLEST * Math.max(1, Math.round(((bar.end - bar.start) * perTick) / SMALLEST));
    bars.push(barFrame(bar, number, at, units));
    at += units;
    if (bar.end >= lastTick) break;
  }
  function barFrame(bar: Bar, number: number, from: number, units: number): BarFrame {
    const [numerator, denominator] = [meter.numerator[bar.row], meter.denominator[bar.row]];
    const whole = beatsOfMeter(numerator, denominator);
    const isImplicit = units < whole.reduce((sum, each) => sum + each, 0);
    // A bar that is cut short keeps its first beats; what is left of one is a beat too.
    const beats: Beat[] = [];
    let done = 0;
    for (let index = 0; done < units; index++) {
      const length = Math.min(whole[index % whole.length], units - done);
      const startTick = bar.start + done / perTick;
      const endTick = bar.start + (done + length) / perTick;
      beats.push({
        at: from + done,
        units: length,
        startTick,
        endTick,
        ms: 1000 * (ticksToSeconds(tempo, endTick) - ticksToSeconds(tempo, startTick)),
        isCompound: denominator >= 8 && length === (12 * QUARTER) / denominator,
        bar: number - 1,
      });
      done += length;
    }
    return {
      number,
      at: from,
      units,
      startTick: bar.start,
      endTick: bar.end,
      numerator,
      denominator,
      isImplicit,
      beats,
    };
  }
  const startTicks = Float64Array.from(bars, ({ startTick }) => startTick);
  const starts = Float64Array.from(bars, ({ at: from }) => from);
  const beats = bars.flatMap((bar) => bar.beats);
  const beatStarts = Float64Array.from(beats, (beat) => beat.at);
  const barAt = (units: number) => bars[Math.max(0, lastAtOrBefore(starts, units))];
  return {
    bars,
    beats,
    barAt,
    beatAt: (units) => beats[Math.max(0, lastAtOrBefore(beatStarts, units))],
    unitsAt(tick) {
      const bar = bars[Math.max(0, lastAtOrBefore(startTicks, tick))];
      return bar.at + (tick - bar.startTick) * perTick;
    },
    tickAt(units) {
      const bar = barAt(units);
      return bar.startTick + (units - bar.at) / perTick;
    },
  };
}
