import fc from 'fast-check';
import { cheapest } from './tightest';

const cost = fc.oneof(
  { weight: 4, arbitrary: fc.integer({ min: 0, max: 12 }) },
  { weight: 1, arbitrary: fc.constant(NaN) },
);
/** Whole numbers, so that equal sums are common and equal to the last bit. */
const table = fc
  .integer({ min: 1, max: 3 })
  .chain((sources) =>
    fc.array(fc.array(cost, { minLength: sources, maxLength: sources }), { minLength: 1, maxLength: 6 }),
  );

/** Every list there is, the lexicographically first of the cheapest. Bars no source can supply are left out. */
function byTryingAll(costs: number[][], penalty: number) {
  const bars = costs.filter((row) => row.some((each) => !Number.isNaN(each)));
  let best: { list: number[]; sum: number } = { list: [], sum: bars.length === 0 ? 0 : Infinity };
  const visit = (list: number[], sum: number) => {
    if (list.length === bars.length) {
      if (sum < best.sum) best = { list, sum };
      return;
    }
    bars[list.length].forEach((own, source) => {
      if (Number.isNaN(own)) return;
      const last = list.at(-1);
      visit([...list, source], sum + own + (last !== undefined && last !== source ? penalty : 0));
    });
  };
  if (bars.length > 0) visit([], 0);
  return best;
}

test('the choice is what trying every list finds, the first of equal ones', () => {
  fc.assert(
    fc.property(table, fc.integer({ min: 0, max: 5 }), (costs, penalty) => {
      const { sources, total, switches } = cheapest(costs, penalty);
      const best = byTryingAll(costs, penalty);
      const supplied = sources.filter((_, bar) => costs[bar].some((each) => !Number.isNaN(each)));
      expect(supplied).toEqual(best.list);
      expect(total).toBe(best.sum);
      expect(switches).toBe(best.list.filter((source, at) => at > 0 && source !== best.list[at - 1]).length);
    }),
    { numRuns: 500 },
  );
});

test('a bar nobody plays stays with the source before, leading ones with the first chosen', () => {
  const nobody = [NaN, NaN];
  expect(cheapest([nobody, [5, 1], nobody, [0, 3], nobody], 1).sources).toEqual([1, 1, 1, 0, 0]);
  expect(cheapest([nobody, nobody], 1)).toEqual({ sources: [0, 0], total: 0, switches: 0 });
  expect(cheapest([], 2)).toEqual({ sources: [], total: 0, switches: 0 });
});

test('sums that differ by less than a billionth are equal', () => {
  expect(cheapest([[1 + 1e-10, 1]], 0).sources).toEqual([0]);
  expect(cheapest([[1 + 1e-8, 1]], 0).sources).toEqual([1]);
});
