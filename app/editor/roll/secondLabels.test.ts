import fc from 'fast-check';
import { roundSeconds, secondLabels } from './secondLabels';

describe('marks of the seconds ruler', () => {
  it('stand at round seconds', () => {
    expect(secondLabels(0, 4.2, 5).map(({ words }) => words)).toEqual([
      '0:00',
      '0:01',
      '0:02',
      '0:03',
      '0:04',
    ]);
    expect(secondLabels(59.8, 60.3, 5).map(({ words }) => words)).toEqual([
      '0:59.8', '0:59.9', '1:00.0', '1:00.1', '1:00.2',
    ]); // prettier-ignore
    expect(secondLabels(3500, 8000, 3).map(({ words }) => words)).toEqual(['1:00:00', '1:30:00', '2:00:00']);
    expect(secondLabels(0, 4e7, 4).at(-1)?.words).toBe('400 d 0:00:00');
  });

  it('are never more than fit, however slow the tempo makes the music', () => {
    fc.assert(
      fc.property(
        fc.double({ min: 0, max: 1e12, noNaN: true }),
        fc.double({ min: 1e-3, max: 1e15, noNaN: true }),
        fc.integer({ min: 1, max: 60 }),
        (from, length, most) => {
          expect(secondLabels(from, from + length, most).length).toBeLessThanOrEqual(most + 2);
          expect(roundSeconds(length)).toBeGreaterThanOrEqual(length < 0.01 ? 0.01 : length * (1 - 1e-9));
        },
      ),
    );
    expect(secondLabels(0, Infinity, 10)).toEqual([]);
  });
});
