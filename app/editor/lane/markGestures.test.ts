import type { PlacedMark } from '@ordle/core';
import { beginInLane } from './beginInLane';
import { beginMark, markAt, markNearest, removeMark, turnHairpin } from './markGestures';
import { at, keys, laneOf } from '../testing/lane';

const P: PlacedMark = { at: 480, mark: 'p', hairpin: true };
const FF: PlacedMark = { at: 1920, mark: 'ff', hairpin: false };
const lane = () => laneOf([], 'cc11', {}, { marks: [P, FF], table: { p: 40 } });
/** Where the letters of a mark stand. */
const letters = (tick: number, value: number): [number, number] => [
  at(tick, value)[0] + 8,
  at(tick, value)[1] - 9,
];

describe('dynamic marks in a lane', () => {
  it('are found by their letters, and the nearest by value is put where the drawing tool presses', () => {
    const { target, log } = lane();
    expect(markAt(target, ...letters(480, 40))).toBe(P);
    expect(markAt(target, ...letters(1200, 40))).toBeNull();
    expect([markNearest(target.marks(), 42), markNearest(target.marks(), 127)]).toEqual(['p', 'fff']);
    const state = { tool: 'draw' as const, mayEdit: true, pedal: false, lines: [], box: null };
    const put = beginInLane(target, state, ...at(1210, 97), false);
    put.end();
    expect(log.marks[0]).toMatchObject({
      label: 'Add f',
      marks: [P, { at: 1200, mark: 'f', hairpin: false }, FF],
    });
    put.abandon?.();
    expect(log.abandoned).toEqual([log.marks[0].gesture]);
  });

  it('move in time and through the marks by a drag, one action, and take the place of one they meet', () => {
    const { target, log } = lane();
    const drag = beginMark(target, ...letters(480, 40), P);
    drag.move(...letters(600, 65), keys());
    drag.move(...letters(1930, 97), keys());
    drag.end();
    expect(log.marks.map(({ marks }) => marks)).toEqual([
      [{ at: 600, mark: 'mp', hairpin: true }, FF],
      [{ at: 1920, mark: 'f', hairpin: true }],
    ]);
    expect(new Set(log.marks.map(({ gesture }) => gesture)).size).toBe(1);
  });

  it('lose and get their hairpins by a double click between them, and are taken away', () => {
    const { target, log } = lane();
    expect(turnHairpin(target, ...at(1000, 60))).toBe(true);
    expect(turnHairpin(target, ...at(2000, 60))).toBe(false);
    expect(log.marks).toEqual([
      { label: 'No hairpin after p', marks: [{ ...P, hairpin: false }, FF], gesture: null },
    ]);
    removeMark(target, FF);
    expect(log.marks[1]).toMatchObject({ label: 'Remove ff', marks: [P] });
  });
});
