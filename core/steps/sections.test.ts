import fc from 'fast-check';
import { semitonesAt, withSection, type Section } from './sections';

const anySections = fc.array(
  fc
    .tuple(fc.integer({ min: 1, max: 20 }), fc.integer({ min: 1, max: 6 }), fc.integer({ min: -12, max: 12 }))
    .map(([from, length, semitones]): Section => ({ bars: [from, from + length], semitones })),
  { maxLength: 6 },
);

describe('sections along the harmony', () => {
  it('one amount for some bars, everything else as it was heard, nothing superfluous', () => {
    fc.assert(
      fc.property(
        anySections,
        fc.integer({ min: 1, max: 24 }),
        fc.integer({ min: 1, max: 8 }),
        fc.integer({ min: -24, max: 24 }),
        (sections, from, length, amount) => {
          const next = withSection(sections, [from, from + length], amount);
          for (let bar = 1; bar < 40; bar++)
            expect(semitonesAt(next, bar)).toBe(
              bar >= from && bar < from + length ? amount : semitonesAt(sections, bar),
            );
          next.forEach((section, index) => {
            expect(section.semitones).not.toBe(0);
            const after = next[index + 1];
            if (!after) return;
            expect(section.bars[1]).toBeLessThanOrEqual(after.bars[0]);
            expect(section.bars[1] === after.bars[0] && section.semitones === after.semitones).toBe(false);
          });
        },
      ),
    );
  });

  it('keeps amounts within what a pitch can move, and 0 takes a section away', () => {
    const far: Section[] = [
      { bars: [1, 3], semitones: 100 },
      { bars: [2, 3], semitones: 100 },
    ];
    expect(withSection(far, [5, 6], 2)).toEqual([
      { bars: [1, 2], semitones: 100 },
      { bars: [2, 3], semitones: 127 },
      { bars: [5, 6], semitones: 2 },
    ]);
    expect(withSection([{ bars: [1, 4], semitones: 5 }], [2, 3], 0)).toEqual([
      { bars: [1, 2], semitones: 5 },
      { bars: [3, 4], semitones: 5 },
    ]);
  });
});
