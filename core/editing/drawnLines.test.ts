import fc from 'fast-check';
import { drawnLines, mergeCurveEdits, type CurveEdit } from '../steps';
import { after, handOf } from '../testing/laneBench';
import { timeline } from '../testing/stepBench';
import { drawBent, drawFreely, drawLine, lineOf, reshapedLine, withEnd } from '.';

describe('shaping a drawn line further', () => {
  const lines = (edits: CurveEdit[]) => drawnLines(edits, 'cc11', 1);
  const first = drawLine(handOf(), { at: 0, value: 10 }, { at: 200, value: 90 }, timeline);
  const second = drawLine(handOf(), { at: 201, value: 90 }, { at: 400, value: 20 }, timeline);

  it('is possible for every line that nothing was drawn into, one beside the other', () => {
    const both = mergeCurveEdits([first], [second]);
    expect(lines(both)).toEqual([first.line, second.line]);
    expect(drawnLines(both, 'cc11', 2)).toEqual([]);
    expect(drawnLines(both, 'cc1', 1)).toEqual([]);
    const into = drawFreely(handOf(), [{ at: 100, value: 3 }, { at: 120, value: 5 }]); // prettier-ignore
    expect(lines(mergeCurveEdits(both, [into]))).toEqual([second.line]);
    // The one drawn first is bent after the other was drawn, and both can be shaped again.
    const bent = reshapedLine(
      handOf(after(both)),
      lineOf({ at: 0, value: 10 }, { at: 200, value: 90 }),
      lineOf({ at: 0, value: 10 }, { at: 200, value: 90 }, { at: 100, value: 80 }),
      timeline,
    );
    const then = mergeCurveEdits(both, [bent]);
    expect(lines(then)).toHaveLength(2);
    const at = (tick: number) => after(then).filter(([each]) => each <= tick).at(-1)?.[1] ?? -1; // prettier-ignore
    expect(Math.abs(at(100) - 80)).toBeLessThanOrEqual(1);
    expect([at(200), at(400)]).toEqual([90, 20]);
  });

  it('an end taken elsewhere keeps the bend, and leaves nothing of the line as it was', () => {
    fc.assert(
      fc.property(
        fc.constantFrom('from', 'to'),
        fc.integer({ min: 1, max: 399 }),
        fc.integer({ min: 0, max: 127 }),
        fc.integer({ min: -30, max: 30 }),
        (end, tick, value, above) => {
          const was = lineOf({ at: 0, value: 40 }, { at: 400, value: 60 }, { at: 100, value: 50 + above });
          const next = withEnd(was, end, { at: tick, value });
          expect(next[end]).toEqual({ at: tick, value });
          const middle = (next.from.value + next.to.value) / 2;
          expect(next.through.value - middle).toBeCloseTo(above, 9);
          expect((next.through.at - next.from.at) / (next.to.at - next.from.at)).toBeCloseTo(0.25, 9);
          const drawn = drawBent(handOf([]), was.from, was.to, was.through, timeline);
          const moved = reshapedLine(handOf(after([drawn], [])), was, next, timeline);
          const all = mergeCurveEdits([drawn], [moved]);
          // Only what the line is now: no point before its beginning, and what it ends with holds on.
          const points = after(all, []);
          expect(points[0][0]).toBe(next.from.at);
          expect(points.filter(([at]) => at > next.to.at && at <= 400)).toEqual([]);
        },
      ),
    );
  });
});
