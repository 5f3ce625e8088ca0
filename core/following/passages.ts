import type { Path, Sides } from './path';
import type { Score } from './score';

/**
 * A stretch of the score that was played without a break in it. Unrolled quarters count what was played one after the
 * other, in whole bars: where a repeat is taken they go on.
 */
export interface Passage {
  /** Quarters of the score: from its first bar line, up to where it was left. */
  from: number;
  to: number;
  /** Where `from` lies in unrolled quarters. */
  at: number;
  /** Bars by index: the first, and the last that was begun. */
  firstBar: number;
  lastBar: number;
  /** When its first stroke was played. */
  seconds: number;
}

/** When a place was played: unrolled quarters, rising, and seconds, never falling. */
export interface Clock {
  at: Float64Array;
  seconds: Float64Array;
}

/** The stretches of a way along a score, and for each chord that was played when, in unrolled quarters. */
export function passagesOf(
  path: Path,
  { playing, groups, score, chords }: Sides,
): { passages: Passage[]; clock: Clock } {
  const passages: Passage[] = [];
  const [at, seconds]: [number[], number[]] = [[], []];
  let [last, lastTime] = [-1, 0];
  for (let group = 0; group < groups.count; group++) {
    const chord = path.chord[group];
    if (chord < 0) continue;
    const time = playing.seconds[groups.from[group]];
    if (passages.length === 0 || path.isJump[group] === 1) {
      if (passages.length > 0) leave(time);
      const bar = chords.bar[chord];
      const from = score.bars[bar];
      const before = passages.at(-1);
      passages.push({
        from,
        to: Infinity,
        at: before ? before.at + score.bars[before.lastBar + 1] - before.from : from,
        firstBar: bar,
        lastBar: bar,
        seconds: time,
      });
      last = -1;
    }
    if (chord === last) continue;
    const passage = passages[passages.length - 1];
    passage.lastBar = chords.bar[chord];
    at.push(passage.at + chords.at[chord] - passage.from);
    seconds.push(Math.max(time, seconds.at(-1) ?? -Infinity));
    [last, lastTime] = [chord, time];
  }
  leave(Infinity);
  return { passages, clock: { at: Float64Array.from(at), seconds: Float64Array.from(seconds) } };

  /** Where the passage before is left: behind what should have been played by then, or where its bar ends. */
  function leave(time: number) {
    const passage = passages.at(-1);
    if (!passage) return;
    const end = score.bars[passage.lastBar + 1];
    const place = chords.at[last];
    const spq = localTempo(at, seconds);
    const reached = time === Infinity ? end : place + (time - lastTime) / spq - 0.05;
    // What is played to the end of its bar is played to the end of its bar.
    passage.to = reached >= end - 0.3 ? end : Math.max(place + 0.01, Math.min(reached, end));
  }
}

/** Seconds a quarter over the last two quarters. */
function localTempo(at: readonly number[], seconds: readonly number[]): number {
  const last = at.length - 1;
  let first = last;
  while (first > 0 && at[last] - at[first] < 2) first--;
  const [quarters, time] = [at[last] - at[first], seconds[last] - seconds[first]];
  return quarters > 0 && time > 0 ? time / quarters : 0.5;
}

/** A bar as it was played. */
export interface PlayedBar {
  /** Where it begins in unrolled quarters, and how long it is. */
  at: number;
  length: number;
  /** Which bar of the score it is, by index, and what it is called there. */
  bar: number;
  name: string;
}

/** The bars of the score as they were played, one after the other. */
export function barsPlayed(passages: readonly Passage[], { bars, firstBar }: Score): PlayedBar[] {
  return passages.flatMap((passage) =>
    Array.from({ length: passage.lastBar - passage.firstBar + 1 }, (_, index): PlayedBar => {
      const bar = passage.firstBar + index;
      return {
        at: passage.at + bars[bar] - passage.from,
        length: bars[bar + 1] - bars[bar],
        bar,
        name: String(bar + firstBar),
      };
    }),
  );
}

/** When an unrolled place was played: between what was played, even; outside it by the tempo there. */
export function secondsAt({ at, seconds }: Clock, place: number): number {
  const count = at.length;
  if (count === 0) return 0;
  if (count === 1) return seconds[0] + (place - at[0]) * 0.5;
  if (place <= at[0]) return seconds[0] + (place - at[0]) * slope(0, Math.min(count - 1, reach(0, 1)));
  if (place >= at[count - 1])
    return seconds[count - 1] + (place - at[count - 1]) * slope(Math.max(0, reach(count - 1, -1)), count - 1);
  let [low, high] = [0, count - 1];
  while (high - low > 1) {
    const middle = (low + high) >> 1;
    if (at[middle] <= place) low = middle;
    else high = middle;
  }
  return seconds[low] + (place - at[low]) * slope(low, high);

  /** The first place at least two quarters away. */
  function reach(from: number, step: 1 | -1): number {
    let index = from;
    while (index + step >= 0 && index + step < count && Math.abs(at[index] - at[from]) < 2) index += step;
    return index;
  }
  function slope(low: number, high: number): number {
    const quarters = at[high] - at[low];
    return quarters > 0 ? (seconds[high] - seconds[low]) / quarters : 0.5;
  }
}
