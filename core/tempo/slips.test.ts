import fc from 'fast-check';
import { stretchesOf } from './slips';

/** Times from lengths of steps, from second 1 on. */
function along(steps: readonly number[]): Float64Array {
  let at = 1;
  return Float64Array.from([at, ...steps.map((step) => (at += step))]);
}

const times = (count: number, step: number) => Array.from({ length: count }, () => step);

describe('where a pulse slid', () => {
  it('is told by the strokes: evenly struck half beats, over which six found ones are half a beat too short', () => {
    fc.assert(
      fc.property(
        fc.double({ min: 0.4, max: 0.8, noNaN: true }),
        fc.integer({ min: 6, max: 20 }),
        (beat, before) => {
          const strokes = along(times(120, beat / 2));
          const slid = along([...times(before, beat), ...times(6, (beat * 5.5) / 6), ...times(20, beat)]);
          const [one, other, ...more] = stretchesOf(slid, strokes);
          expect(more).toEqual([]);
          expect([one.slidInto, other.slidInto]).toEqual([false, true]);
          // Within the slide, give or take what is as even as the rest.
          expect(Math.abs(one.end - 1 - before)).toBeLessThanOrEqual(2);
          expect(Math.abs(other.first - before - 6)).toBeLessThanOrEqual(2);
        },
      ),
    );
  });

  it('is nowhere while the strokes go along: the tempo changed', () => {
    fc.assert(
      fc.property(fc.double({ min: 0.4, max: 0.8, noNaN: true }), (beat) => {
        const gaps = [...times(10, beat), ...times(6, (beat * 5.5) / 6), ...times(20, beat)];
        const strokes = along(gaps.flatMap((gap) => [gap / 2, gap / 2]));
        expect(stretchesOf(along(gaps), strokes).every(({ slidInto }) => !slidInto)).toBe(true);
      }),
    );
    // And where next to nothing is struck, which says nothing.
    const gaps = [...times(10, 0.5), ...times(6, 0.458), ...times(20, 0.5)];
    expect(stretchesOf(along(gaps), along(times(5, 4))).every(({ slidInto }) => !slidInto)).toBe(true);
  });
});
