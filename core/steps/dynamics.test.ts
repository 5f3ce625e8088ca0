import { noteTableOf } from '../model';
import { FOUR, curve, laneOf, pointsAfter } from '../testing/curveBench';
import { context, noEvents } from '../testing/stepBench';
import { DYNAMIC_MARKS, MARK_VALUES, applyStep } from '.';

describe('curve: dynamic marks', () => {
  const marks = [
    { at: 3840, mark: 'p' },
    { at: 960, mark: 'f', hairpin: true },
    { at: 7680, mark: 'ff', hairpin: true },
  ];

  it('hold until the next, grow along hairpins, and replace what stood from the first on', () => {
    const list = pointsAfter(FOUR, { op: 'marks', marks });
    expect(list[0]).toEqual([0, 10]);
    const [fade, rest] = [
      list.filter(([tick]) => tick >= 960 && tick < 3840),
      list.filter(([tick]) => tick >= 3840),
    ];
    expect(fade.map(([, value]) => value)).toEqual(Array.from({ length: 48 }, (_, step) => 96 - step));
    expect(rest).toEqual([
      [3840, 49],
      [7680, 112],
    ]);
    const table = { p: 20, ff: 127 };
    expect(pointsAfter(FOUR, { op: 'marks', marks, table }).slice(-2)).toEqual([
      [3840, 20],
      [7680, 127],
    ]);
    expect(pointsAfter(laneOf('cc11', []), { op: 'marks', marks: [marks[0]] })).toEqual([[3840, 49]]);
    expect(pointsAfter(FOUR, { op: 'marks', marks, where: { bars: [2, 3] } }).map(([tick]) => tick)).toEqual([
      0, 960, 3840, 7680,
    ]);
  });

  it('drive velocities: the mean of the notes under a mark is where the mark is, their accents stay', () => {
    const played = [
      [0, 50],
      [960, 70],
      [1500, 90],
      [2400, 60],
      [3840, 30],
      [4000, 50],
    ].map(([start, velocity], id) => ({ id, start, end: start + 100, velocity }));
    const material = { notes: noteTableOf(played), events: noEvents };
    const after = (more: object) => [
      ...applyStep(material, curve({ op: 'marks', lane: 'velocity', ...more }), context).notes.velocity,
    ];
    const plain = [
      { at: 960, mark: 'f' },
      { at: 3840, mark: 'p' },
    ];
    const mean = (70 + 90 + 60) / 3;
    expect(after({ marks: plain })).toEqual([50, ...[70, 90, 60].map((own) => 96 + own - mean), 39, 59]);
    expect(after({ marks: plain, table: { f: 127 }, where: { bars: [2, 3] } })).toEqual([
      50, 70, 90, 60, 39, 59,
    ]);
    // Along a hairpin each goes by where it stands.
    const hairpin = [
      { at: 960, mark: 'f', hairpin: true },
      { at: 3840, mark: 'p' },
    ];
    const along = [0, 540, 1440].map((passed) => 96 + ((49 - 96) * passed) / 2880);
    expect(after({ marks: hairpin }).slice(1, 4)).toEqual(
      [70, 90, 60].map((own, row) => expect.closeTo(along[row] + own - mean, 9)),
    );
    expect(after({ marks: [] })).toEqual([50, 70, 90, 60, 30, 50]);
  });

  it('rise evenly from soft to loud; forte lies by the forte of MusicXML (velocity 90, from memory), mezzo forte below it', () => {
    const values = DYNAMIC_MARKS.map((mark) => MARK_VALUES[mark]);
    values.slice(1).forEach((value, step) => {
      expect(value - values[step]).toBeGreaterThanOrEqual(14);
      expect(value - values[step]).toBeLessThanOrEqual(17);
    });
    const percentOfForte = (mark: 'mf' | 'f' | 'ff') => (MARK_VALUES[mark] / 90) * 100;
    expect(percentOfForte('f')).toBeLessThan(110);
    expect([percentOfForte('mf') < 100, percentOfForte('f') >= 100, percentOfForte('ff') > 110]).toEqual([
      true,
      true,
      true,
    ]);
  });
});
