import fc from 'fast-check';
import { beats, studio } from '../testing/takesStudio';
import type { PlainNote } from '../testing/files';
import { bestMatch } from './alignTakes';
import { compareTakes } from './compareTakes';
import { choose, withTakes } from './partTakes';
import { barsOfLoop, cutsByBars, cutsByLength, passesOf, withPasses } from './passes';

// 480 ticks a quarter, 4/4 at 120 bpm.
const BAR = 1920;

describe('comparing takes', () => {
  const noted = (list: [number, number][]) => ({
    start: Float64Array.from(list, ([start]) => start),
    pitch: Uint8Array.from(list, ([, pitch]) => pitch),
  });
  const { timeline } = studio([{ notes: beats(30) }]);

  it('says what is missing and extra against most of the others, bar by bar', () => {
    const full = noted([
      [0, 60],
      [480, 62],
      [BAR, 64],
    ]);
    const late = noted([
      [10, 60],
      [490, 62],
      [BAR + 20, 64],
    ]);
    const poor = noted([
      [0, 60],
      [700, 65],
      [BAR, 64],
    ]);
    const [a, b, c] = compareTakes([full, late, poor], '1/16', 2, timeline);
    expect([[...a.missing], [...a.extra]]).toEqual([
      [0, 0],
      [0, 0],
    ]);
    expect([[...b.missing], [...b.extra]]).toEqual([
      [0, 0],
      [0, 0],
    ]);
    expect([[...c.missing], [...c.extra]]).toEqual([
      [1, 0],
      [1, 0],
    ]);
    expect([...compareTakes([full], '1/16', 2, timeline)[0].extra]).toEqual([0, 0]);
    expect(compareTakes([], '1/16', 2, timeline)).toEqual([]);
  });

  it('finds the offset at which two match, whatever it is', () => {
    const phrase = [0, 300, 470, 1000, 1530, 2222, 2500, 3700, 4100];
    fc.assert(
      fc.property(fc.integer({ min: -7000, max: 7000 }), (ms) => {
        const ticks = ms * 0.96;
        const take = noted(phrase.map((at, index) => [at + 8000, 60 + (index % 3)]));
        const other = noted(phrase.map((at, index) => [at + 8000 + ticks, 60 + (index % 3)]));
        const match = bestMatch(take, other, timeline);
        expect((match?.seconds ?? 0) * 1000).toBeCloseTo(ms, 3);
        expect(match?.share).toBe(1);
      }),
    );
    expect(bestMatch(noted([[0, 60]]), noted([[0, 61]]), timeline)).toBeNull();
  });

  it('finds after how many bars a loop repeats, and splits it into passes', () => {
    const quay = studio([
      {
        notes: [0, 1, 2, 3].flatMap((pass): PlainNote[] =>
          [
            [0, 0],
            [500, 4],
            [BAR + 960, 7],
          ].map(([at, up]) => [at + pass * 2 * BAR + pass, at + pass * 2 * BAR + 200, 60 + up, 50 + pass]),
        ),
      },
    ]);
    const [take] = quay.takes;
    const laid = quay.laid(quay.part).material.notes;
    expect(barsOfLoop(laid, '1/16', quay.timeline)).toBe(2);
    const cuts = cutsByBars(1, 2, 8 * BAR, quay.timeline);
    const passes = passesOf(take, cuts, 'beats', quay.timeline, () => quay.numbers.next++);
    expect(passes).toHaveLength(4);
    passes.forEach((pass, index) => {
      const named = withTakes(quay.part, passes);
      const alone = choose(
        choose(named, quay.layer, { from: 0, to: Infinity }, null, quay.numbers),
        quay.layer,
        { from: 0, to: Infinity },
        pass,
        quay.numbers,
      );
      expect(quay.notes(alone).map(([start, , pitch, velocity]) => [start, pitch, velocity])).toEqual([
        [index, 60, 50 + index],
        [500 + index, 64, 50 + index],
        [BAR + 960 + index, 67, 50 + index],
      ]);
    });
    // Where the part played the take on and on, it is one pass long, and any pass can be chosen in its bars.
    const split = withPasses(quay.part, take, passes, quay.takes, quay.numbers);
    expect(quay.notes(split).map(([start, , , velocity]) => [start, velocity])).toEqual([
      [0, 50],
      [500, 50],
      [BAR + 960, 50],
    ]);
    const second = choose(split, quay.layer, { from: BAR, to: 2 * BAR }, passes[2], quay.numbers);
    expect(quay.notes(second).map(([start, , , velocity]) => [start, velocity])).toEqual([
      [0, 50],
      [500, 50],
      [BAR + 962, 52],
    ]);
    // At 120 bpm two bars are four seconds: by length, and in a part locked to seconds, it is the same.
    expect(cutsByLength(1, 4, 8 * BAR, quay.timeline)).toEqual(cuts);
    expect(cutsByBars(3, 2, BAR, quay.timeline)).toEqual([2 * BAR]);
    const inSeconds = passesOf(take, cuts, 'seconds', quay.timeline, () => quay.numbers.next++);
    expect(inSeconds.map(({ from, to, slide }) => [from, to, slide])).toEqual([
      [0, 4, 0],
      [4, 8, -4],
      [8, 12, -8],
      [12, null, -12],
    ]);
    expect(
      barsOfLoop(
        noted([
          [0, 60],
          [BAR, 61],
          [2 * BAR, 62],
        ]),
        '1/16',
        quay.timeline,
      ),
    ).toBeNull();
  });
});
