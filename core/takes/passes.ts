import {
  barAt,
  barNumbered,
  createGrid,
  nearestLines,
  secondsToTicks,
  ticksToSeconds,
  type NoteValue,
  type Timeline,
} from '../time';
import { listOf, type Part, type PartTake } from '../session';
import type { TakeNotes } from './compareTakes';
import { choose, endOf, isOfTake, withTakes, type PieceNumbers } from './partTakes';

/** A share of strokes that come again from which on a length counts as the loop's. */
const ENOUGH = 0.6;
/** More passes than this nobody means. */
const MOST_PASSES = 10_000;
/** Nor a longer loop, in bars. */
const LONGEST_LOOP = 1000;

/**
 * After how many bars a long take repeats: the shortest length after which nearly as many strokes come again (one
 * pitch, nearest to the same line of the grid) as after the best; null where under 60 percent ever do, and for takes
 * of one bar.
 */
export function barsOfLoop({ start, pitch }: TakeNotes, grid: NoteValue, { meter }: Timeline): number | null {
  if (start.length === 0) return null;
  const last = barAt(meter, start[start.length - 1]).number;
  const lines = new Float64Array(start.length);
  nearestLines(createGrid(meter, [grid]), start, lines);
  const strokes = new Set(Array.from(lines, (line, row) => `${pitch[row]} ${Math.round(line)}`));
  let found: { bars: number; share: number }[] = [];
  for (let bars = 1; bars <= Math.min(LONGEST_LOOP, last / 2); bars++) {
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

/** Places (ticks) where passes of so many bars begin, from bar `first` on, up to `end`. At most 10,000. */
export function cutsByBars(first: number, bars: number, end: number, { meter }: Timeline): number[] {
  const cuts: number[] = [];
  for (let bar = first; cuts.length === 0 || barNumbered(meter, bar).start < end; bar += bars) {
    if (cuts.length === MOST_PASSES) break;
    cuts.push(barNumbered(meter, bar).start);
  }
  return cuts;
}

/** Places (ticks) where passes of so many seconds begin, from bar `first` on, up to `end`. At most 10,000. */
export function cutsByLength(first: number, seconds: number, end: number, timeline: Timeline): number[] {
  const { meter, tempo } = timeline;
  const begin = ticksToSeconds(tempo, barNumbered(meter, first).start);
  const count = Math.ceil((ticksToSeconds(tempo, end) - begin) / seconds - 1e-9);
  return Array.from({ length: Math.min(MOST_PASSES, Math.max(1, count)) }, (_, pass) =>
    secondsToTicks(tempo, begin + pass * seconds),
  );
}

/**
 * A take that was played on and on as one take a pass: each lies from one of `cuts` (ticks, rising, as the take lies
 * in its part) up to the next and sounds from the first of them on. What comes before the first goes with the first
 * pass. `newNumber` gives each its own.
 */
export function passesOf(
  take: PartTake,
  cuts: readonly number[],
  lockedTo: Part['lockedTo'],
  { tempo }: Timeline,
  newNumber: () => number,
): PartTake[] {
  const places = cuts.map((tick) => (lockedTo === 'seconds' ? ticksToSeconds(tempo, tick) : tick));
  return places.map((place, pass) => {
    const number = pass === 0 ? take.number : newNumber();
    const next = places.at(pass + 1);
    const isLast = pass + 1 === places.length || next === undefined;
    return {
      ...take,
      id: pass === 0 ? take.id : `take${number}`,
      name: `${take.name}, pass ${pass + 1}`.slice(0, 200),
      number,
      from: pass === 0 ? take.from : Math.max(take.from, place - take.slide),
      to: isLast ? take.to : Math.min(take.to ?? Infinity, next - take.slide),
      slide: take.slide + places[0] - place,
    };
  });
}

/**
 * A part that offers `passes` in place of the take they are of. They lie one over the other, so where the part laid
 * the take it is one pass long then: the first, with its notes known as before. What the part lays of other takes
 * stays.
 */
export function withPasses(
  part: Part,
  take: PartTake,
  passes: readonly PartTake[],
  takes: readonly PartTake[],
  numbers: PieceNumbers,
): Part {
  const [{ to, slide }] = passes;
  const end = to === null ? Infinity : to + slide;
  let made = part;
  for (const { id, pieces } of listOf(part.layers))
    for (const piece of listOf(pieces))
      if (isOfTake(piece, take) && endOf(piece) > end)
        made = choose(made, id, { from: Math.max(end, piece.at), to: endOf(piece) }, null, numbers);
  return withTakes(
    made,
    takes.flatMap((own) => (own.id === take.id ? passes : [own])),
  );
}
