import fc from 'fast-check';
import { fAtAnyLevel, fMeasure } from './score';

/**
 * From the definition: the largest matching of beats within 70 ms, by augmenting paths; then twice the matches over
 * both counts.
 */
function fByDefinition(found: readonly number[], meant: readonly number[]): number {
  const a = found.filter((at) => at >= 5);
  const b = meant.filter((at) => at >= 5);
  if (a.length === 0 || b.length === 0) return a.length === b.length ? 1 : 0;
  const partner = new Array<number>(b.length).fill(-1);
  const augment = (row: number, seen: Set<number>): boolean =>
    b.some((at, other) => {
      if (Math.abs(at - a[row]) > 0.07 + 1e-12 || seen.has(other)) return false;
      seen.add(other);
      if (partner[other] >= 0 && !augment(partner[other], seen)) return false;
      partner[other] = row;
      return true;
    });
  const matches = a.filter((_, row) => augment(row, new Set())).length;
  return (2 * matches) / (a.length + b.length);
}

const anyBeats = fc
  .array(fc.integer({ min: 0, max: 2000 }), { maxLength: 30 })
  .map((list) => list.map((at) => at / 100).sort((one, other) => one - other));

describe('the score of beats', () => {
  it('is what its definition gives, by a second way of matching', () => {
    fc.assert(
      fc.property(anyBeats, anyBeats, (found, meant) => {
        expect(fMeasure(found, meant)).toBeCloseTo(fByDefinition(found, meant), 9);
      }),
      { numRuns: 500 },
    );
  });

  it('is 1 for the beats themselves, two thirds for every other one, 1 at an allowed level', () => {
    const beats = Float64Array.from({ length: 60 }, (_, beat) => 5 + beat * 0.5);
    const half = beats.filter((_, beat) => beat % 2 === 0);
    expect(fMeasure(beats, beats)).toBe(1);
    expect(fMeasure(half, beats)).toBeCloseTo(2 / 3, 9);
    expect(fAtAnyLevel(half, beats)).toBe(1);
    expect(
      fMeasure(
        beats.map((at) => at + 0.25),
        beats,
      ),
    ).toBe(0);
  });
});
