import fc from 'fast-check';
import { createEventBuilder } from '../midi';
import { noteTableOf, type Material } from '../model';
import { context } from '../testing/stepBench';
import { CHART_KINDS, chartOf, measureNotes, notesOfBin, type ChartBin } from '.';

// 960 ticks a quarter at 120 bpm in 4/4: a sixteenth is 240 ticks, a millisecond 1.92.
const { timeline } = context;
const MS = 1.92;
const SIXTEENTHS = { grids: ['1/16'], swing: 50 };
type Plain = [start: number, length?: number, velocity?: number];

const materialOf = (
  list: readonly Plain[],
  pedal: readonly [tick: number, value: number][] = [],
): Material => {
  const builder = createEventBuilder(pedal.length);
  for (const [tick, value] of pedal) builder.add(tick, 0xb0, 64, value);
  return {
    notes: noteTableOf(
      list.map(([start, length = 96, velocity = 80], id) => ({
        id,
        start,
        end: start + length,
        pitch: 60,
        velocity,
        release: 64,
        channel: 0,
      })),
    ),
    events: builder.build(),
  };
};
const measured = (...args: Parameters<typeof materialOf>) =>
  measureNotes(materialOf(...args), SIXTEENTHS, timeline);
const after = (bins: readonly ChartBin[]) =>
  bins.filter((bin) => bin.after.notes > 0).map((bin) => [bin.from, bin.after.value]);

describe('charts of a part', () => {
  it('count how many notes lie how far off, all that lie farther in the outermost bins', () => {
    const played = measured([[0], [240 + 12 * MS], [480 - 30 * MS], [720 + 61 * MS]]);
    const bins = chartOf('off-the-lines', played, played);
    expect(bins).toHaveLength(33);
    expect(after(bins)).toEqual([
      [-32.5, 1],
      [-2.5, 1],
      [7.5, 1],
      [57.5, 1],
    ]);
  });

  it('tell the mean lateness and loudness of each place in the bar, in beats', () => {
    const list: Plain[] = [0, 1, 2].flatMap((bar): Plain[] => [
      [bar * 3840 + 10 * MS, 96, 90],
      [bar * 3840 + 960 + 240 - (bar + 1) * MS, 96, 60 + bar],
    ]);
    const profile = measured(list);
    expect(after(chartOf('by-place', profile, profile))).toEqual([
      [1, expect.closeTo(10, 6)],
      [2.25, expect.closeTo(-2, 6)],
    ]);
    expect(after(chartOf('velocity-by-place', profile, profile))).toEqual([
      [1, 90],
      [2.25, 61],
    ]);
  });

  it('take a note a little before a bar line for the first place of the bar it means', () => {
    const profile = measured([[3840 - 20 * MS]]);
    expect(after(chartOf('by-place', profile, profile))).toEqual([[1, expect.closeTo(-20, 6)]]);
    expect(after(chartOf('along-bars', profile, profile))).toEqual([[2, expect.closeTo(-20, 6)]]);
  });

  it('tell the tempo that is played: a bar of two seconds that takes 2.02 is 1 % slower', () => {
    // Every bar begins 20 ms later than the one before would have it.
    const list = Array.from({ length: 12 }, (_, bar): Plain => [bar * 3840 + bar * 4 * MS]);
    const profile = measured(list);
    for (const { after: bin } of chartOf('tempo', profile, profile))
      expect(bin.value).toBeCloseTo(120 / 1.002, 3);
  });

  it('sort lengths by their ratio, gaps by the next stroke, velocities by four', () => {
    const profile = measured([
      [0, 100 * MS, 10],
      [960, 520 * MS, 11],
      [1920, 490 * MS, 12],
      [1921, 490 * MS, 127],
    ]);
    const of = (kind: Parameters<typeof chartOf>[0]) => after(chartOf(kind, profile, profile));
    expect(of('length')).toEqual([
      [100, 1],
      [expect.closeTo(400, 6), 3],
    ]);
    // 400 ms before the next stroke; 20 ms over it; the last two are followed by none.
    expect(of('to-the-next')).toEqual([
      [-37.5, 1],
      [387.5, 1],
    ]);
    expect(of('velocity')).toEqual([
      [8, 2],
      [12, 1],
      [124, 1],
    ]);
  });

  it('count presses by how long after their stroke they go down, and name those strokes', () => {
    const strokes: Plain[] = [[0], [960], [1920]];
    const profile = measured(strokes, [
      [960 + 100 * MS, 127],
      [1700, 0],
      [1920 - 25 * MS, 127],
      [3000, 0],
    ]);
    expect(after(chartOf('pedal', profile, profile))).toEqual([
      [-37.5, 1],
      [87.5, 1],
    ]);
    const sides = { before: profile, after: profile };
    const bin = chartOf('pedal', profile, profile).findIndex(({ from }) => from === 87.5);
    expect([...notesOfBin('pedal', sides, 'after', bin)]).toEqual([1]);
  });

  it('of nothing have no notes in any bin', () => {
    const nothing = measured([]);
    for (const kind of CHART_KINDS)
      expect(chartOf(kind, nothing, nothing).reduce((sum, bin) => sum + bin.after.notes, 0)).toBe(0);
  });

  it('put every note in one bin, and the notes of the bins are all notes, before and after', () => {
    const list = fc.array(
      fc.tuple(
        fc.integer({ min: 0, max: 3_000_000 }),
        fc.integer({ min: 1, max: 9000 }),
        fc.integer({ min: 1, max: 127 }),
      ),
      { minLength: 1, maxLength: 60 },
    );
    const sorted = (plain: [number, number, number][]) => measured([...plain].sort((a, b) => a[0] - b[0]));
    fc.assert(
      fc.property(list, list, fc.constantFrom(...CHART_KINDS), (one, other, kind) => {
        const sides = { before: sorted(one), after: sorted(other) };
        const bins = chartOf(kind, sides.before, sides.after);
        for (const side of ['before', 'after'] as const) {
          const ids = bins.flatMap((_, bin) => [...notesOfBin(kind, sides, side, bin)]);
          const counted = bins.reduce((sum, bin) => sum + bin[side].notes, 0);
          expect(ids).toHaveLength(counted);
          expect(new Set(ids).size).toBe(ids.length);
          if (kind !== 'pedal' && kind !== 'to-the-next') expect(counted).toBe(sides[side].notes.length);
        }
        expect(bins.length).toBeLessThanOrEqual(240);
        for (let bin = 1; bin < bins.length; bin++) expect(bins[bin].from).toBe(bins[bin - 1].to);
      }),
    );
  });

  it('of some bars are told by the notes that belong to them', () => {
    const list = Array.from({ length: 8 }, (_, bar): Plain => [bar * 3840 + bar * MS]);
    const some = measureNotes(materialOf(list), SIXTEENTHS, timeline, { bars: [3, 5] });
    expect(after(chartOf('along-bars', some, some))).toEqual([
      [3, expect.closeTo(2, 6)],
      [4, expect.closeTo(3, 6)],
    ]);
  });
});
