import fc from 'fast-check';
import { roundMarks } from './roundMarks';

test('marks are round, and 0 is one of them', () => {
  expect(roundMarks([20.7, -14.3, null], false)).toEqual([-15, -10, -5, 0, 5, 10, 15, 20, 25]);
  expect(roundMarks([3], true)).toEqual([0, 1, 2, 3]);
  expect(roundMarks([0.31], false)).toEqual([0, 0.1, 0.2, 0.3, 0.4]);
  expect(roundMarks([], true)).toEqual([0, 1]);
  expect(roundMarks([102.87, null, 105.2], false, false)).toEqual([
    102.5, 103, 103.5, 104, 104.5, 105, 105.5,
  ]);
  expect(roundMarks([104], false, false)).toEqual([104, 104.2]);
  expect(roundMarks([null], false, false)).toEqual([0, 0.2]);
});

test('any values lie within their marks, which are few and rise by one step', () => {
  // To a thousandth, as charts come: marks are rounded to twelve figures.
  const value = fc.integer({ min: -1e9, max: 1e9 }).map((each) => each / 1000);
  fc.assert(
    fc.property(fc.array(fc.option(value)), fc.boolean(), (values, whole) => {
      const marks = roundMarks(values, whole);
      const known = values.map((each) => each ?? 0);
      expect(Math.min(0, ...known)).toBeGreaterThanOrEqual(marks[0]);
      expect(Math.max(0, ...known)).toBeLessThanOrEqual(marks[marks.length - 1]);
      expect(marks).toContain(0);
      expect(marks.length).toBeLessThanOrEqual(12);
      if (whole) expect(marks.every(Number.isInteger)).toBe(true);
    }),
  );
});
