import type { TakeRow } from '@ordle/core';
import { cheapest } from '@ordle/core';
import fc from 'fast-check';
import type { ProposalSettings } from '@/state/viewSlice';
import { loosestBars, tighterTake } from './loosest';
import { costsOf, spreadOf } from './useProposal';

const rowOf = (bars: [notes: number, spreadMs: number][]) =>
  ({ reading: { bars: bars.map(([notes, spreadMs]) => ({ notes, spreadMs, velocity: 80 })) } }) as TakeRow;

test('the spread of a choice is that of its bars together, each by its notes', () => {
  const rows = [
    rowOf([
      [3, 10],
      [1, 20],
    ]),
    rowOf([
      [3, 4],
      [1, 2],
    ]),
  ];
  expect(spreadOf(rows, Int32Array.of(0, 1))).toBeCloseTo(Math.sqrt((3 * 100 + 4) / 4));
  expect(spreadOf(rows, Int32Array.of(1, 1))).toBeCloseTo(Math.sqrt((3 * 16 + 4) / 4));
  // Bars nobody supplies, and bars without notes, count for nothing.
  expect(spreadOf(rows, Int32Array.of(-1, 0))).toBe(20);
  expect(spreadOf(rows, Int32Array.of(-1, -1))).toBeNaN();
});

test('the loosest bars come first, without those that have no notes', () => {
  const assembled = {
    reading: {
      biasMs: 0,
      spreadMs: 0,
      bars: [5, NaN, 12, 5].map((spreadMs) => ({ notes: 1, spreadMs, velocity: 80 })),
    },
  };
  const state = { assembled } as Parameters<typeof loosestBars>[0];
  expect(loosestBars(state).map(({ bar }) => bar)).toEqual([2, 0, 3]);
  expect(loosestBars({ assembled: null })).toEqual([]);
});

test('where a proposal was accepted no tighter take is named, whatever was looked for; elsewhere one is', () => {
  const bar = fc.tuple(fc.integer({ min: 1, max: 4 }), fc.integer({ min: 1, max: 40 }));
  const settingsOf = fc.record<ProposalSettings>({
    by: fc.constantFrom('tightest', 'fullest', 'loudest', 'nearest'),
    penalty: fc.integer({ min: 0, max: 10 }),
    missing: fc.integer({ min: 0, max: 5 }),
    velocity: fc.constant(80),
  });
  fc.assert(
    fc.property(
      fc.array(fc.array(bar, { minLength: 6, maxLength: 6 }), { minLength: 2, maxLength: 4 }),
      settingsOf,
      (takes, settings) => {
        const rows = takes.map(rowOf);
        const accepted = Int32Array.from(cheapest(costsOf(rows, settings), settings.penalty).sources);
        for (let at = 0; at < 6; at++) expect(tighterTake(rows, [accepted], at, settings)).toBeNull();
      },
    ),
  );
  const rows = [rowOf([[3, 20]]), rowOf([[3, 10]]), rowOf([[3, 12]])];
  const settings: ProposalSettings = { by: 'tightest', penalty: 2, missing: 2, velocity: 80 };
  expect(tighterTake(rows, [Int32Array.of(0)], 0, settings)).toBe(rows[1]);
  // Several together are no one take's bar.
  expect(tighterTake(rows, [Int32Array.of(0), Int32Array.of(2)], 0, settings)).toBeNull();
});
