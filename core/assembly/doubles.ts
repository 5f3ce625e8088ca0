import type { NoteTable } from '../model';
import type { Doubles } from '../session';
import { ticksToSeconds, type Timeline } from '../time';

/** A note of a layer. */
interface Stroke {
  layer: number;
  row: number;
}

/** What starts at one moment and is not paired yet: by layer, its rows in order. */
interface Moment {
  ms: number;
  layers: Map<number, number[]>;
  before: Moment | null;
  after: Moment | null;
}

/** What rounding may add to a distance in ms. */
const ROUNDING = 1e-9;

/**
 * The rows of each layer that go because another layer has the same note: one pitch and channel, starts at most `withinMs` apart. Notes are
 * paired closest first (of equal distances the pair that starts earlier, then the earlier layers), each at most once; of a pair `keep` says
 * which stays, and on a tie the earlier layer's. With `oneChannel` all will be on one, whatever they are on here.
 */
export function doublesIn(
  layers: readonly NoteTable[],
  { keep, withinMs }: Doubles,
  timeline: Timeline,
  oneChannel = false,
): Set<number>[] {
  const dropped = layers.map(() => new Set<number>());
  if (keep === 'both' || layers.length < 2) return dropped;
  const byKey = new Map<number, (Stroke & { ms: number })[]>();
  layers.forEach((notes, layer) => {
    for (let row = 0; row < notes.length; row++) {
      const key = oneChannel ? notes.pitch[row] : (notes.channel[row] << 7) | notes.pitch[row];
      const stroke = { layer, row, ms: ticksToSeconds(timeline.tempo, notes.start[row]) * 1000 };
      const list = byKey.get(key);
      if (list) list.push(stroke);
      else byKey.set(key, [stroke]);
    }
  });
  for (const strokes of byKey.values()) {
    for (const [a, b] of paired(strokes, withinMs)) {
      const [first, second] = a.layer < b.layer ? [a, b] : [b, a];
      const kept = keep === 'first' ? first : better(layers, first, second, keep);
      const gone = kept === first ? second : first;
      dropped[gone.layer].add(gone.row);
    }
  }
  return dropped;
}

/**
 * Pairs of strokes of different layers, closest first. What starts at one moment is paired there first; then one layer is left at each moment, and the closest two of different
 * layers are always neighbours among the moments that still hold something, since anything between them would be closer to one of them. So a crowd costs no more than sorting it.
 */
function paired(strokes: (Stroke & { ms: number })[], withinMs: number): [Stroke, Stroke][] {
  const pairs: [Stroke, Stroke][] = [];
  const moments = momentsOf(strokes);
  const queue = createQueue();
  const offer = (a: Moment | null, b: Moment | null) => {
    if (!a || !b || onlyLayer(a) === onlyLayer(b)) return;
    if (b.ms - a.ms <= withinMs + ROUNDING) queue.add({ a, b, distance: b.ms - a.ms });
  };
  for (const moment of moments) pairWithin(moment, pairs);
  const left = moments.filter(({ layers }) => layers.size > 0);
  left.forEach((moment, at) => {
    [moment.before, moment.after] = [left[at - 1] ?? null, left[at + 1] ?? null];
    offer(moment.before, moment);
  });
  for (let next = queue.take(); next; next = queue.take()) {
    const { a, b } = next;
    // One of them may have been used up, or come to have another beside it.
    if (a.layers.size === 0 || b.layers.size === 0 || a.after !== b) continue;
    take(a, onlyLayer(a), b, onlyLayer(b), pairs);
    const [before, after] = [a.layers.size > 0 ? a : a.before, b.layers.size > 0 ? b : b.after];
    if (before) before.after = after;
    if (after) after.before = before;
    offer(before, after);
  }
  return pairs;
}

function momentsOf(strokes: (Stroke & { ms: number })[]): Moment[] {
  strokes.sort((a, b) => a.ms - b.ms || a.layer - b.layer || a.row - b.row);
  const moments: Moment[] = [];
  for (const { layer, row, ms } of strokes) {
    let last = moments.at(-1);
    if (!last || ms - last.ms > ROUNDING)
      moments.push((last = { ms, layers: new Map(), before: null, after: null }));
    const rows = last.layers.get(layer);
    if (rows) rows.push(row);
    else last.layers.set(layer, [row]);
  }
  return moments;
}

const onlyLayer = ({ layers }: Moment): number => layers.keys().next().value ?? -1;

/** The earliest layers first, each row of one with the next of the other. */
function pairWithin(moment: Moment, pairs: [Stroke, Stroke][]): void {
  for (;;) {
    const [first, second] = [...moment.layers.keys()].sort((a, b) => a - b);
    if (second === undefined) return;
    take(moment, first, moment, second, pairs);
  }
}

function take(a: Moment, layer: number, b: Moment, other: number, pairs: [Stroke, Stroke][]): void {
  const [own, theirs] = [a.layers.get(layer) ?? [], b.layers.get(other) ?? []];
  const count = Math.min(own.length, theirs.length);
  for (let at = 0; at < count; at++)
    pairs.push([
      { layer, row: own[at] },
      { layer: other, row: theirs[at] },
    ]);
  for (const [moment, of, rows] of [
    [a, layer, own],
    [b, other, theirs],
  ] as const) {
    if (rows.length === count) moment.layers.delete(of);
    else moment.layers.set(of, rows.slice(count));
  }
}

interface Candidate {
  a: Moment;
  b: Moment;
  distance: number;
}

/** Candidates, the closest first, of equal distances the earlier (a binary heap). */
function createQueue() {
  const heap: Candidate[] = [];
  const isBefore = (one: Candidate, other: Candidate) =>
    Math.abs(one.distance - other.distance) > ROUNDING
      ? one.distance < other.distance
      : one.a.ms < other.a.ms;
  return {
    add(candidate: Candidate) {
      let at = heap.push(candidate) - 1;
      for (let up = (at - 1) >> 1; at > 0 && isBefore(candidate, heap[up]); up = (at - 1) >> 1) {
        heap[at] = heap[up];
        at = up;
      }
      heap[at] = candidate;
    },
    take(): Candidate | undefined {
      const [first] = heap;
      const last = heap.pop();
      if (!last || heap.length === 0) return first as Candidate | undefined;
      let at = 0;
      for (;;) {
        let child = 2 * at + 1;
        if (child + 1 < heap.length && isBefore(heap[child + 1], heap[child])) child++;
        if (child >= heap.length || !isBefore(heap[child], last)) break;
        heap[at] = heap[child];
        at = child;
      }
      heap[at] = last;
      return first;
    },
  };
}

function better(
  layers: readonly NoteTable[],
  first: Stroke,
  second: Stroke,
  keep: 'louder' | 'longer',
): Stroke {
  const value = ({ layer, row }: Stroke) =>
    keep === 'louder' ? layers[layer].velocity[row] : layers[layer].end[row] - layers[layer].start[row];
  return value(second) > value(first) ? second : first;
}
