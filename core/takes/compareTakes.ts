import {
  createGrid,
  createMusicalBars,
  musicalPlaces,
  nearestLines,
  type NoteValue,
  type Timeline,
} from '../time';

/** Notes of a take where they lie in the session: starts in order, in ticks. */
export interface TakeNotes {
  readonly start: Float64Array;
  readonly pitch: Uint8Array;
}

/** What a take lacks and has beyond the others in each bar, bar 1 first. */
export interface Comparison {
  missing: Uint16Array;
  extra: Uint16Array;
}

/**
 * Compares takes note by note: two are the same note when they have one pitch and lie nearest to the same line of the
 * grid in the same musical bar. A note that more than half of the other takes with notes in the bar have is missing
 * where it is not; one that fewer than half of them have is extra. A take without notes in a bar is compared with
 * nothing there, neither is one that is alone.
 */
export function compareTakes(
  takes: readonly TakeNotes[],
  grid: NoteValue,
  bars: number,
  timeline: Timeline,
): Comparison[] {
  const lines = createGrid(timeline.meter, [grid]);
  // The notes of each bar, by what makes them the same, and the takes that have them.
  const held: Map<string, Set<number>>[] = Array.from({ length: bars }, () => new Map<string, Set<number>>());
  const plays: Set<number>[] = Array.from({ length: bars }, () => new Set<number>());
  takes.forEach(({ start, pitch }, take) => {
    const nearest = new Float64Array(start.length);
    nearestLines(lines, start, nearest);
    const places = musicalPlaces(start, timeline);
    const numberOf = createMusicalBars(timeline);
    for (let row = 0; row < start.length; row++) {
      const bar = numberOf(places[row]) - 1;
      if (bar >= bars) continue;
      const note = `${pitch[row]} ${Math.round(nearest[row])}`;
      const owners = held[bar].get(note);
      if (owners) owners.add(take);
      else held[bar].set(note, new Set([take]));
      plays[bar].add(take);
    }
  });
  const compared = takes.map((): Comparison => ({
    missing: new Uint16Array(bars),
    extra: new Uint16Array(bars),
  }));
  held.forEach((notes, bar) => {
    const others = plays[bar].size - 1;
    if (others < 1) return;
    for (const owners of notes.values())
      for (const take of plays[bar]) {
        const isHere = owners.has(take);
        const elsewhere = owners.size - (isHere ? 1 : 0);
        if (!isHere && elsewhere > others / 2) compared[take].missing[bar]++;
        if (isHere && elsewhere < others / 2) compared[take].extra[bar]++;
      }
  });
  return compared;
}
