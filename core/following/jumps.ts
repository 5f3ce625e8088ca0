import { MOST_IN_CHORD, type Chords, type Grouped, type PlayedNotes } from './chords';
import type { Score } from './score';

/** At a second the playing is said to be at the beginning of a bar, by index. */
export interface Said {
  seconds: number;
  bar: number;
}

/** Groups that a person said are the beginning of a bar, with its first chord. */
export function forcedGroups(
  { seconds }: PlayedNotes,
  groups: Grouped,
  chords: Chords,
  said: readonly Said[],
): Map<number, number> {
  const forced = new Map<number, number>();
  for (const each of said) {
    const target = chords.firstOfBar[each.bar] ?? chords.count;
    if (target >= chords.count) continue;
    let [nearest, least] = [0, Infinity];
    for (let group = 0; group < groups.count; group++) {
      const off = Math.abs(seconds[groups.from[group]] - each.seconds);
      if (off < least) [nearest, least] = [group, off];
    }
    forced.set(nearest, target);
  }
  return forced;
}

interface WrittenJump {
  target: number;
  /** In quarters as played: to the end of the bar, and from the start of the next. */
  distance: number;
}

/** Where the order of bars does not go on to the next one: from each chord of the bar it leaves. */
export function jumpsOfOrder({ order, bars }: Score, chords: Chords): Map<number, WrittenJump[]> {
  const jumps = new Map<number, WrittenJump[]>();
  const seen = new Set<string>();
  order?.forEach((bar, index) => {
    const to = order[index + 1];
    if (to === undefined || to === bar + 1 || seen.has(`${bar} ${to}`)) return;
    seen.add(`${bar} ${to}`);
    const target = chords.firstOfBar[to];
    if (target >= chords.count) return;
    const last = bar + 1 < chords.firstOfBar.length ? chords.firstOfBar[bar + 1] : chords.count;
    for (let chord = last - 1; chord >= Math.max(0, last - 4); chord--) {
      const distance = bars[bar + 1] - chords.at[chord] + (chords.at[target] - bars[to]);
      jumps.set(chord, [...(jumps.get(chord) ?? []), { target, distance }]);
    }
  });
  return jumps;
}

/** Bars by the pitches they begin with: for some strokes those that begin with one of them. */
export function createOpenings({ pitch }: Score, { firstOfBar, from, count }: Chords) {
  const byPitch = Array.from({ length: 128 }, (): number[] => []);
  firstOfBar.forEach((chord, bar) => {
    // A bar without a stroke begins with what comes behind it.
    if (chord >= count || (bar > 0 && firstOfBar[bar - 1] === chord)) return;
    const end = from[chord] + Math.min(MOST_IN_CHORD, from[chord + 1] - from[chord]);
    for (const each of new Set(pitch.subarray(from[chord], end))) byPitch[each].push(bar);
  });
  const seen = new Int32Array(firstOfBar.length).fill(-1);
  let asked = 0;
  return (played: Uint8Array, first: number, end: number): number[] => {
    const found: number[] = [];
    asked++;
    for (let row = first; row < end; row++)
      for (const bar of byPitch[played[row]])
        if (seen[bar] !== asked) {
          seen[bar] = asked;
          found.push(bar);
        }
    return found;
  };
}
