import { barAt, barNumbered, createGrid, nearestLines, type NoteValue, type Timeline } from '../time';
import type { PartTake } from '../session';
import type { TakeNotes } from './compareTakes';

/** A share of strokes that come again from which on a length counts as the loop's. */
const ENOUGH = 0.6;

/**
 * After how many bars a long take repeats: the shortest length after which nearly as many strokes come again (one pitch, nearest to the same line of the
 * grid) as after the best; null where under 60 percent ever do, and for takes of one bar.
 */
export function barsOfLoop({ start, pitch }: TakeNotes, grid: NoteValue, { meter }: Timeline): number | null {
  if (start.length === 0) return null;
  const last = barAt(meter, start[start.length - 1]).number;
  const lines = new Float64Array(start.length);
  nearestLines(createGrid(meter, [grid]), start, lines);
  const strokes = new Set(Array.from(lines, (line, row) => `${pitch[row]} ${Math.round(line)}`));
  let found: { bars: number; share: number }[] = [];
  for (let bars = 1; bars <= last / 2; bars++) {
    const length = barNumbered(meter, bars + 1).start;
    let [again, all] = [0, 0];
    lines.forEach((line, row) => {
      if (line + length > lines[lines.length - 1] + 1) return;
      all++;
      if (strokes.has(`${pitch[row]} ${Math.round(line + length)}`)) again++;
    });
    if (all > 0) found.push({ bars, share: again / all });
  }
  const best = Math.max(0, ...found.map(({ share }) => share));
  found = found.filter(({ share }) => share >= ENOUGH && share >= best - 0.1);
  return found[0]?.bars ?? null;
}

/**
 * A take that was played on and on as one take a pass: the k-th lies from bar `first + k * bars` of it on and sounds from bar `first` on. What comes before
 * bar `first` goes with the first pass. `number` gives each its own.
 */
export function passesOf(
  take: PartTake,
  { first, bars, end }: { first: number; bars: number; end: number },
  { meter }: Timeline,
  newNumber: () => number,
): PartTake[] {
  const place = (bar: number) => barNumbered(meter, bar).start - take.slide;
  const passes: PartTake[] = [];
  for (let bar = first; barNumbered(meter, bar).start < end; bar += bars) {
    const pass = passes.length;
    const number = pass === 0 ? take.number : newNumber();
    passes.push({
      ...take,
      id: pass === 0 ? take.id : `take${number}`,
      name: `${take.name}, pass ${pass + 1}`.slice(0, 200),
      number,
      from: pass === 0 ? take.from : Math.max(take.from, place(bar)),
      to: barNumbered(meter, bar + bars).start < end ? place(bar + bars) : take.to,
      slide: take.slide + barNumbered(meter, first).start - barNumbered(meter, bar).start,
    });
  }
  return passes;
}
