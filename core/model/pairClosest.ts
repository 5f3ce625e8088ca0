import { createHeap } from './heap';

/** Something that starts at a moment, of one of several sets. */
export interface Stroke {
  set: number;
  row: number;
}

/** What starts at one moment and is not paired yet: by set, its rows in order. */
interface Moment {
  at: number;
  sets: Map<number, number[]>;
  before: Moment | null;
  after: Moment | null;
}

/** What rounding may add to a distance. */
const ROUNDING = 1e-9;

/**
 * Strokes of different sets paired, at most `within` apart, each at most once: closest first, of equal distances the
 * pair that starts earlier, then the earlier sets and rows. What starts at one moment is paired there first; then one
 * set is left at each moment, and the closest two of different sets are always neighbours among the moments that
 * still hold something, since anything between them would be closer to one of them. So a crowd costs no more than
 * sorting it. Changes the order of `strokes`.
 */
export function pairClosest(strokes: (Stroke & { at: number })[], within: number): [Stroke, Stroke][] {
  const pairs: [Stroke, Stroke][] = [];
  const moments = momentsOf(strokes);
  const queue = createHeap(comesFirst);
  const offer = (a: Moment | null, b: Moment | null) => {
    if (!a || !b || onlySet(a) === onlySet(b)) return;
    if (b.at - a.at <= within + ROUNDING) queue.add({ a, b, distance: b.at - a.at });
  };
  for (const moment of moments) pairAtOnce(moment, pairs);
  const left = moments.filter(({ sets }) => sets.size > 0);
  left.forEach((moment, index) => {
    [moment.before, moment.after] = [left[index - 1] ?? null, left[index + 1] ?? null];
    offer(moment.before, moment);
  });
  for (let next = queue.take(); next; next = queue.take()) {
    const { a, b } = next;
    // One of them may have been used up, or come to have another beside it.
    if (a.sets.size === 0 || b.sets.size === 0 || a.after !== b) continue;
    take(a, onlySet(a), b, onlySet(b), pairs);
    const [before, after] = [a.sets.size > 0 ? a : a.before, b.sets.size > 0 ? b : b.after];
    if (before) before.after = after;
    if (after) after.before = before;
    offer(before, after);
  }
  return pairs;
}

function momentsOf(strokes: (Stroke & { at: number })[]): Moment[] {
  strokes.sort((a, b) => a.at - b.at || a.set - b.set || a.row - b.row);
  const moments: Moment[] = [];
  for (const { set, row, at } of strokes) {
    let last = moments.at(-1);
    if (!last || at - last.at > ROUNDING)
      moments.push((last = { at, sets: new Map(), before: null, after: null }));
    const rows = last.sets.get(set);
    if (rows) rows.push(row);
    else last.sets.set(set, [row]);
  }
  return moments;
}

const onlySet = ({ sets }: Moment): number => sets.keys().next().value ?? -1;

/** The earliest sets first, each row of one with the next of the other. */
function pairAtOnce(moment: Moment, pairs: [Stroke, Stroke][]): void {
  for (;;) {
    const [first, second] = [...moment.sets.keys()].sort((a, b) => a - b);
    if (second === undefined) return;
    take(moment, first, moment, second, pairs);
  }
}

function take(a: Moment, set: number, b: Moment, other: number, pairs: [Stroke, Stroke][]): void {
  const [own, theirs] = [a.sets.get(set) ?? [], b.sets.get(other) ?? []];
  const count = Math.min(own.length, theirs.length);
  for (let at = 0; at < count; at++)
    pairs.push([
      { set, row: own[at] },
      { set: other, row: theirs[at] },
    ]);
  for (const [moment, of, rows] of [
    [a, set, own],
    [b, other, theirs],
  ] as const) {
    if (rows.length === count) moment.sets.delete(of);
    else moment.sets.set(of, rows.slice(count));
  }
}

interface Candidate {
  a: Moment;
  b: Moment;
  distance: number;
}

/** The closest first, of equal distances the earlier. */
const comesFirst = (one: Candidate, other: Candidate): boolean =>
  Math.abs(one.distance - other.distance) > ROUNDING ? one.distance < other.distance : one.a.at < other.a.at;
