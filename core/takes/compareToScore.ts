import { beginningOf, follow, type Score } from '../following';
import { barAt, createMusicalBars, musicalPlaces, ticksToSeconds, type Timeline } from '../time';
import type { Comparison, TakeNotes } from './compareTakes';

/**
 * What each take lacks and has beyond its score in each bar of the session, bar 1 first: a wrong note is missing, and
 * what was played in its place is extra. Each take is followed by itself, and lies where it was played.
 */
export function compareToScore(
  takes: readonly TakeNotes[],
  score: Score,
  bars: number,
  timeline: Timeline,
): Comparison[] {
  return takes.map(({ start, pitch }): Comparison => {
    const counted = { missing: new Uint16Array(bars), extra: new Uint16Array(bars) };
    const order = [...start.keys()].sort((a, b) => start[a] - start[b] || pitch[a] - pitch[b]);
    const ticks = Float64Array.from(order, (row) => start[row]);
    const following = follow(score, {
      seconds: ticks.map((tick) => ticksToSeconds(timeline.tempo, tick)),
      pitch: Uint8Array.from(order, (row) => pitch[row]),
    });
    const { occurrences, playedOf, occurrenceOf, isRight, passages } = following;
    const from = passages.at(0)?.from ?? 0;
    const begins = beginningOf(score, following, ticks, timeline);
    const count = (column: Uint16Array, bar: number) => {
      if (bar >= 1 && bar <= bars) column[bar - 1]++;
    };
    occurrences.forEach(({ place }, index) => {
      const row = playedOf[index];
      if (row >= 0 && isRight[row] === 1) return;
      const tick = (begins + place - from) * timeline.ticksPerQuarter;
      count(counted.missing, barAt(timeline.meter, tick + 1e-6).number);
    });
    const places = musicalPlaces(ticks, timeline);
    const numberOf = createMusicalBars(timeline);
    for (let row = 0; row < ticks.length; row++) {
      const bar = numberOf(places[row]);
      if (occurrenceOf[row] < 0 || isRight[row] === 0) count(counted.extra, bar);
    }
    return counted;
  });
}
