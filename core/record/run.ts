import {
  barNumbered,
  reachBefore,
  secondsToTicks,
  ticksToSeconds,
  type TempoChange,
  type Timeline,
} from '../time';

/** A stretch of the session, in ticks. */
export interface TickRange {
  from: number;
  to: number;
}

/**
 * Which pass of a loop a tick that was counted on through it lies in, from 0; before the loop's start it is the first.
 */
export const passOf = (unrolled: number, loop: TickRange | null): number =>
  loop ? Math.max(0, Math.floor((unrolled - loop.from) / (loop.to - loop.from))) : 0;

/** The pass a stroke is meant for: one that comes a little before the loop begins anew belongs to what begins there. */
export const passOfStroke = (unrolled: number, loop: TickRange | null, timeline: Timeline): number =>
  loop ? passOf(unrolled + loop.to - reachBefore(loop.to, timeline), loop) : 0;

/**
 * A place in music that runs: the tick on the bars, how often the loop began anew, and the tick with all passes laid
 * end to end.
 */
export interface PlaceInRun {
  tick: number;
  pass: number;
  unrolled: number;
}

/**
 * Where music that began somewhere is after so many seconds of it. `at` takes seconds counted on through a loop: at
 * the start they are the start's own, and at the loop's end they go on. Before the loop's start passes count as the
 * first.
 */
export function createMusicRun({ tempo }: Timeline, loop: TickRange | null) {
  const from = loop ? ticksToSeconds(tempo, loop.from) : 0;
  const length = loop ? ticksToSeconds(tempo, loop.to) - from : 0;
  return {
    at(second: number): PlaceInRun {
      const pass = loop && second >= from + length ? Math.floor((second - from) / length) : 0;
      const tick = secondsToTicks(tempo, second - pass * length);
      return { tick, pass, unrolled: loop ? tick + pass * (loop.to - loop.from) : tick };
    },
  };
}

/** How the ticks of a recorded take stand to those of the session: `take = (session - firstTick) * scale`, rounded. */
export interface RecordedTime {
  /** Session tick at which the take begins; below 0 where what is played may come before the first bar. */
  firstTick: number;
  scale: number;
  ticksPerQuarter: number;
}

/** Where a tick of the session lies in a take, not yet rounded; and where one of the take lies in the session. */
export const takeTickOf = ({ firstTick, scale }: RecordedTime, tick: number): number =>
  (tick - firstTick) * scale;
export const sessionTickOf = ({ firstTick, scale }: RecordedTime, tick: number): number =>
  tick / scale + firstTick;

/** A tick of a recorded take lasts at most so many seconds, where a file's division can say that. */
const FINEST_SECONDS = 0.0001;
const LARGEST_DIVISION = 0x7fff;

/**
 * The time of a take recorded from a tick on, at a speed (1: the session's tempo). Its division is a multiple of the
 * session's, so that session ticks are whole ticks of it; below 18 bpm a tick is longer than 0.1 ms, since a file
 * holds no finer division.
 */
export function recordedTime(timeline: Timeline, from: number, speed: number): RecordedTime {
  const quarter = timeline.ticksPerQuarter;
  const slowest = timeline.tempo.secondsPerTick.reduce((most, each) => Math.max(most, each), 0) * quarter;
  const wanted = slowest / speed / FINEST_SECONDS;
  const times = Math.max(1, Math.min(Math.ceil(wanted / quarter), Math.floor(LARGEST_DIVISION / quarter)));
  const ticksPerQuarter = Number.isInteger(quarter)
    ? times * quarter
    : Math.min(LARGEST_DIVISION, Math.ceil(wanted));
  const bar = barNumbered(timeline.meter, 1).end;
  return { firstTick: from < bar ? -bar : 0, scale: ticksPerQuarter / quarter, ticksPerQuarter };
}

/** The tempos of a recorded take: the session's, and those of the loop again for every pass after the first. */
export function recordedTempos(
  tempos: readonly TempoChange[],
  { tempo }: Timeline,
  time: RecordedTime,
  loop: TickRange | null,
  passes: number,
): TempoChange[] {
  const place = (tick: number) => Math.round(takeTickOf(time, tick));
  const made = [{ tick: 0, microsecondsPerQuarter: tempo.microsecondsPerQuarter[0] }];
  const add = (tick: number, microsecondsPerQuarter: number) => {
    const at = place(tick);
    if (at <= made[made.length - 1].tick) made[made.length - 1] = { tick: at, microsecondsPerQuarter };
    else made.push({ tick: at, microsecondsPerQuarter });
  };
  const end = loop && passes > 1 ? loop.to : Infinity;
  tempo.tick.forEach((tick, row) => {
    if (tick > 0 && tick < end) add(tick, tempo.microsecondsPerQuarter[row]);
  });
  if (!loop || passes < 2 || tempos.length < 2) return made;
  const inForce = tempo.tick.findLastIndex((tick) => tick <= loop.from);
  for (let pass = 1; pass < passes; pass++) {
    const shift = pass * (loop.to - loop.from);
    add(loop.from + shift, tempo.microsecondsPerQuarter[Math.max(0, inForce)]);
    tempo.tick.forEach((tick, row) => {
      if (tick > loop.from && tick < loop.to) add(tick + shift, tempo.microsecondsPerQuarter[row]);
    });
  }
  return made;
}
