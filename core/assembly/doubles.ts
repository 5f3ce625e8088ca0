import type { NoteTable } from '../model';
import type { Doubles } from '../session';
import { ticksToSeconds, type Timeline } from '../time';

/** A note of a layer. */
interface Stroke {
  layer: number;
  row: number;
  ms: number;
}

interface Pair {
  distance: number;
  first: number;
  a: Stroke;
  b: Stroke;
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
  const byKey = new Map<number, Stroke[]>();
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
    for (const { a, b } of paired(strokes, withinMs)) {
      const [first, second] = a.layer < b.layer ? [a, b] : [b, a];
      const kept = keep === 'first' ? first : better(layers, first, second, keep);
      const gone = kept === first ? second : first;
      dropped[gone.layer].add(gone.row);
    }
  }
  return dropped;
}

function paired(strokes: Stroke[], withinMs: number): Pair[] {
  strokes.sort((a, b) => a.ms - b.ms || a.layer - b.layer || a.row - b.row);
  const pairs: Pair[] = [];
  for (let at = 0; at < strokes.length; at++) {
    for (let other = at + 1; other < strokes.length; other++) {
      const distance = strokes[other].ms - strokes[at].ms;
      if (distance > withinMs + ROUNDING) break;
      if (strokes[at].layer === strokes[other].layer) continue;
      pairs.push({ distance, first: strokes[at].ms, a: strokes[at], b: strokes[other] });
    }
  }
  pairs.sort(
    (p, q) =>
      (Math.abs(p.distance - q.distance) > ROUNDING ? p.distance - q.distance : 0) ||
      (Math.abs(p.first - q.first) > ROUNDING ? p.first - q.first : 0) ||
      Math.min(p.a.layer, p.b.layer) - Math.min(q.a.layer, q.b.layer) ||
      Math.max(p.a.layer, p.b.layer) - Math.max(q.a.layer, q.b.layer),
  );
  const taken = new Set<Stroke>();
  return pairs.filter(({ a, b }) => {
    if (taken.has(a) || taken.has(b)) return false;
    taken.add(a).add(b);
    return true;
  });
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
