/** Some bars, from the first up to but not including the second, moved by some semitones. */
export interface Section {
  bars: [number, number];
  semitones: number;
}

/** What a bar is moved by: overlapping sections add up. */
export function semitonesAt(sections: readonly Section[], bar: number): number {
  let sum = 0;
  for (const { bars, semitones } of sections) if (bar >= bars[0] && bar < bars[1]) sum += semitones;
  return sum;
}

/**
 * Gives some bars one amount. What is left of the others stays as it was heard; the result has no overlaps, no
 * amounts of 0, and neighbours of one amount are one section. Amounts are held within ±127.
 */
export function withSection(
  sections: readonly Section[],
  [from, to]: readonly [number, number],
  semitones: number,
): Section[] {
  const edges = new Set([from, to, ...sections.flatMap(({ bars }) => bars)]);
  const places = [...edges].sort((a, b) => a - b);
  const result: Section[] = [];
  places.slice(0, -1).forEach((start, index) => {
    const end = places[index + 1];
    const inside = start >= from && end <= to;
    const amount = Math.max(-127, Math.min(127, inside ? semitones : semitonesAt(sections, start)));
    const last = result.at(-1);
    if (amount === 0) return;
    if (last && last.bars[1] === start && last.semitones === amount) last.bars[1] = end;
    else result.push({ bars: [start, end], semitones: amount });
  });
  return result;
}
