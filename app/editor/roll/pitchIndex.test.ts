import type { ViewNotes } from '@ordle/core';
import fc from 'fast-check';
import { rowsAt, rowsInBox } from './pitchIndex';
import { visibleRows } from './visibleRows';

function viewOf(list: { start: number; length: number; pitch: number }[]): ViewNotes {
  const sorted = [...list].sort((a, b) => a.start - b.start);
  let reach = -Infinity;
  return {
    length: sorted.length,
    id: Float64Array.from(sorted, (_, row) => row),
    start: Float64Array.from(sorted, ({ start }) => start),
    end: Float64Array.from(sorted, ({ start, length }) => start + length),
    pitch: Uint8Array.from(sorted, ({ pitch }) => pitch),
    velocity: new Float64Array(sorted.length).fill(80),
    reach: Float64Array.from(sorted, ({ start, length }) => (reach = Math.max(reach, start + length))),
    usedPitches: new Uint8Array(128),
  };
}
const anyView = fc
  .array(
    fc.record({
      start: fc.nat(2000),
      length: fc.integer({ min: 1, max: 600 }),
      pitch: fc.integer({ min: 58, max: 62 }),
    }),
    { maxLength: 60 },
  )
  .map(viewOf);
const every = (view: ViewNotes) => Array.from({ length: view.length }, (_, row) => row);

describe('finding notes', () => {
  it('at a place gives what looking at all notes gives', () => {
    fc.assert(
      fc.property(
        anyView,
        fc.nat(2600),
        fc.integer({ min: 57, max: 63 }),
        fc.nat(20),
        (view, tick, pitch, slack) => {
          const expected = every(view).filter(
            (row) =>
              view.pitch[row] === pitch && view.start[row] - slack <= tick && view.end[row] + slack >= tick,
          );
          expect([...rowsAt(view, tick, pitch, slack)].sort((a, b) => a - b)).toEqual(expected);
        },
      ),
    );
  });

  it('in a box gives what looking at all notes gives', () => {
    fc.assert(
      fc.property(
        anyView,
        fc.nat(2600),
        fc.nat(500),
        fc.integer({ min: 57, max: 62 }),
        fc.nat(3),
        (view, from, span, low, more) => {
          const expected = every(view).filter(
            (row) =>
              view.start[row] < from + span &&
              view.end[row] > from &&
              view.pitch[row] >= low &&
              view.pitch[row] <= low + more,
          );
          expect([...rowsInBox(view, from, from + span, low, low + more)].sort((a, b) => a - b)).toEqual(
            expected,
          );
        },
      ),
    );
  });

  it('in sight leaves none out', () => {
    fc.assert(
      fc.property(anyView, fc.nat(2600), fc.nat(500), (view, from, span) => {
        const { first, end } = visibleRows(view, from, from + span);
        every(view).forEach((row) => {
          if (view.start[row] < from + span && view.end[row] > from)
            expect(row >= first && row < end).toBe(true);
        });
      }),
    );
  });
});
