import type { NoteTable } from '../model';
import { playingOf, type ChordHabit } from '../analysis';
import { barAt, quartersOf, secondsToTicks, ticksToSeconds, type Timeline } from '../time';

/** Notes by when they were meant, as far as the playing as a whole tells: in ticks, real. */
export interface MeantTimes {
  start: Float64Array;
  end: Float64Array;
  /** Percent of swing that was taken out; 50 for none. */
  swing: number;
  /** Which note of a rolled chord is on the beat. */
  habit: ChordHabit;
}

/** Of fewer strokes the lateness of the whole cannot be told. */
const FEW = 8;
/** From this much on a swing is one, in percent. */
const LEAST_SWING = 55;

/** Starts and ends without the lateness of the whole, and with played swing straightened, or as triplets. */
export function meantTimes(
  notes: NoteTable,
  isDrums: boolean,
  timeline: Timeline,
  straightSwing: boolean,
): MeantTimes {
  const playing = playingOf(notes, isDrums, timeline);
  const late = playing && playing.strokes.length >= FEW ? playing.biasMs / 1000 : 0;
  const swing = playing && playing.swing >= LEAST_SWING ? playing.swing : 50;
  const pair = swing === 50 || !playing ? 0 : 2 * quartersOf(playing.grid) * timeline.ticksPerQuarter;
  const to = straightSwing ? 0.5 : 2 / 3;
  const meant = (tick: number) => {
    const second = ticksToSeconds(timeline.tempo, tick) - late;
    const at = second < 0 ? 0 : secondsToTicks(timeline.tempo, second);
    if (pair === 0) return at;
    const { start } = barAt(timeline.meter, at);
    const whole = Math.floor((at - start) / pair);
    const share = (at - start) / pair - whole;
    const line = swing / 100;
    // What lies near the end of a pair is the next one's: it goes along with it.
    const next = share <= line ? (share / line) * to : to + ((share - line) / (1 - line)) * (1 - to);
    return start + (whole + next) * pair;
  };
  return {
    start: notes.start.map(meant),
    end: notes.end.map(meant),
    swing,
    habit: playing?.habit ?? 'first',
  };
}

/** No player is tighter, and of none more is believed, in ms. */
const [TIGHT, LOOSE] = [10, 22];

/** How far strokes scatter about their lines, in ms: by their middle deviation, as of a normal one. */
export function spreadOf(off: Float64Array): number {
  const away = off.map(Math.abs).sort();
  return Math.min(LOOSE, Math.max(TIGHT, (away[away.length >> 1] ?? 0) / 0.6745));
}

/** Strokes on either side a drift is read from. */
const AROUND = 16;
/** More than this is no drift, in ms. */
const MOST_DRIFT = 60;
/** The middle of so many strokes is as sure as this many of its own errors say; less is no drift. */
const ERRORS = 1;

/**
 * The slow drift of a performance: the middle of how late the strokes around each one were, in ms, less what the
 * middle of so few strays by itself (1.25 deviations over the root of their count, of normal ones).
 */
export function driftOf(off: Float64Array): Float64Array {
  const spread = spreadOf(off);
  return off.map((_, index) => {
    const around = off.slice(Math.max(0, index - AROUND), index + AROUND + 1).sort();
    const middle = around[around.length >> 1];
    const sure = Math.max(0, Math.abs(middle) - (ERRORS * 1.25 * spread) / Math.sqrt(around.length));
    return Math.sign(middle) * Math.min(MOST_DRIFT, sure);
  });
}
