import { pairClosest, type NoteTable, type Stroke } from '../model';
import type { Doubles } from '../session';
import { ticksToSeconds, type Timeline } from '../time';

/**
 * The rows of each layer that go because another layer has the same note: one pitch and channel, starts at most
 * `withinMs` apart. Notes are paired closest first (of equal distances the pair that starts earlier, then the earlier
 * layers), each at most once; of a pair `keep` says which stays, and on a tie the earlier layer's. With `oneChannel`
 * all will be on one, whatever they are on here.
 */
export function doublesIn(
  layers: readonly NoteTable[],
  { keep, withinMs }: Doubles,
  timeline: Timeline,
  oneChannel = false,
): Set<number>[] {
  const dropped = layers.map(() => new Set<number>());
  if (keep === 'both' || layers.length < 2) return dropped;
  const byKey = new Map<number, (Stroke & { at: number })[]>();
  layers.forEach((notes, set) => {
    for (let row = 0; row < notes.length; row++) {
      const key = oneChannel ? notes.pitch[row] : (notes.channel[row] << 7) | notes.pitch[row];
      const stroke = { set, row, at: ticksToSeconds(timeline.tempo, notes.start[row]) * 1000 };
      const list = byKey.get(key);
      if (list) list.push(stroke);
      else byKey.set(key, [stroke]);
    }
  });
  for (const strokes of byKey.values()) {
    for (const [a, b] of pairClosest(strokes, withinMs)) {
      const [first, second] = a.set < b.set ? [a, b] : [b, a];
      const kept = keep === 'first' ? first : better(layers, first, second, keep);
      const gone = kept === first ? second : first;
      dropped[gone.set].add(gone.row);
    }
  }
  return dropped;
}

function better(
  layers: readonly NoteTable[],
  first: Stroke,
  second: Stroke,
  keep: 'louder' | 'longer',
): Stroke {
  const value = ({ set, row }: Stroke) =>
    keep === 'louder' ? layers[set].velocity[row] : layers[set].end[row] - layers[set].start[row];
  return value(second) > value(first) ? second : first;
}
