import fc from 'fast-check';
import { createHeap, pairClosest, type Stroke } from '.';

/** The same by looking at every pair: closest first, then the earlier, then the earlier sets and rows. */
function plainly(strokes: readonly (Stroke & { at: number })[], within: number): string[] {
  const sorted = [...strokes].sort((a, b) => a.at - b.at || a.set - b.set || a.row - b.row);
  const pairs = sorted.flatMap((a, index) =>
    sorted
      .slice(index + 1)
      .filter((b) => b.set !== a.set && b.at - a.at <= within)
      .map((b) => ({ a, b, distance: b.at - a.at })),
  );
  pairs.sort(
    (p, q) =>
      p.distance - q.distance ||
      p.a.at - q.a.at ||
      Math.min(p.a.set, p.b.set) - Math.min(q.a.set, q.b.set) ||
      Math.max(p.a.set, p.b.set) - Math.max(q.a.set, q.b.set),
  );
  const taken = new Set<Stroke>();
  return pairs
    .filter(({ a, b }) => {
      if (taken.has(a) || taken.has(b)) return false;
      taken.add(a).add(b);
      return true;
    })
    .map(({ a, b }) => named(a, b));
}

const named = (...pair: Stroke[]) =>
  pair
    .map(({ set, row }) => `${set}:${row}`)
    .sort()
    .join(' ');

describe('pairing', () => {
  it('is that of looking at every pair, whatever falls together', () => {
    const anyStrokes = fc.array(fc.tuple(fc.nat(2), fc.nat(12)), { maxLength: 14 }).map((list) => {
      const counts = [0, 0, 0];
      return list.map(([set, at]) => ({ set, at, row: counts[set]++ }));
    });
    fc.assert(
      fc.property(anyStrokes, fc.nat(6), (strokes, within) => {
        const pairs = pairClosest([...strokes], within).map(([a, b]) => named(a, b));
        expect(pairs.sort()).toEqual(plainly(strokes, within).sort());
      }),
      { numRuns: 2000 },
    );
  });
});

describe('a heap', () => {
  it('gives its things in order, however they came', () => {
    fc.assert(
      fc.property(fc.array(fc.integer()), (numbers) => {
        const heap = createHeap<number>((one, other) => one < other);
        for (const each of numbers) heap.add(each);
        const taken: number[] = [];
        while (heap.size > 0) taken.push(heap.take() ?? NaN);
        expect(taken).toEqual([...numbers].sort((a, b) => a - b));
        expect(heap.first()).toBeUndefined();
      }),
    );
  });
});
