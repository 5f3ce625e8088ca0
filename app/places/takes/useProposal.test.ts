import type { TakeRow } from '@ordle/core';
import { loosestBars } from './loosest';
import { spreadOf } from './useProposal';

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
