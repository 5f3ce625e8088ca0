import fc from 'fast-check';
import { noteTableOf } from '../model';
import { noEvents, timeline, context, run, column, rows, anyNotes } from '../testing/stepBench';
import { BUILT_IN_GROOVES, applyStep, createStep, stackedGroove, takeGroove, weakPoints } from '.';

describe('groove and align', () => {
  it('straightened at 100, applying twice is applying once', () => {
    fc.assert(
      fc.property(
        anyNotes,
        fc.constantFrom(...BUILT_IN_GROOVES),
        fc.integer({ min: 0, max: 130 }),
        (notes, groove, timing) => {
          const step = createStep('groove', { groove, timing, straighten: 100 });
          const once = run(notes, step);
          const twice = applyStep({ notes: once, events: noEvents }, step, context).notes;
          // A note pushed before the start of the music is held at 0 and may belong to another line there.
          if (column(once, 'start').every((start) => start > 0 || groove.name !== 'pushed')) {
            expect(rows(twice).map((row) => row.map((value) => Number(value.toFixed(6))))).toEqual(
              rows(once).map((row) => row.map((value) => Number(value.toFixed(6)))),
            );
          }
        },
      ),
    );
  });

  it('not straightened, a groove goes on shifting its own result (common practice)', () => {
    const step = createStep('groove', { groove: 'laid back' });
    const once = run([{ start: 960, end: 1000 }], step);
    expect(applyStep({ notes: once, events: noEvents }, step, context).notes.start[0]).toBeGreaterThan(
      once.start[0],
    );
  });

  it('tells of a groove that comes on top of another, and how far both shift together', () => {
    const heavy = createStep('groove', { groove: 'heavy sixteenth swing' });
    // 63 % of a pair of sixteenths is 26 % of a sixteenth late; twice that is 52 %.
    expect(stackedGroove([heavy, { ...heavy }], 1)).toEqual({
      name: 'heavy sixteenth swing',
      share: expect.closeTo(0.52, 9),
    });
    const half = createStep('groove', { groove: 'heavy sixteenth swing', straighten: 50, timing: 50 });
    expect(stackedGroove([heavy, half], 1)?.share).toBeCloseTo(0.26 / 2 + 0.26 / 2, 9);
    expect(stackedGroove([heavy, half], 0)).toBeNull();
    for (const first of [
      { ...heavy, on: false },
      createStep('groove', { groove: 'straight' }),
      createStep('groove', { groove: 'heavy sixteenth swing', timing: 0, velocity: 50 }),
      createStep('groove', { groove: 'heavy sixteenth swing', where: { bars: [1, 5] } }),
    ])
      expect(stackedGroove([first, { ...heavy, where: { bars: [5, 9] } }], 1)).toBeNull();
    expect(stackedGroove([heavy, { ...heavy, straighten: 100 }], 1)).toBeNull();
    // On other lines the farthest of each stand for them: 0.16 and 0.065 quarters in steps of an eighth.
    const eighth = createStep('groove', { groove: 'eighth swing' });
    expect(stackedGroove([heavy, eighth], 1)?.share).toBeCloseTo((0.1 + 0.065) / 0.5, 9);
  });

  it('does not trust a point of one stroke, or of strokes far apart', () => {
    const strokes = [0, 8, 1920, 2000, 2880, 4800].map((start) => ({ start, end: start + 50 }));
    const taken = takeGroove(noteTableOf(strokes), 'x', '1/4', 2, timeline);
    // Beat one of the cycle is struck at 0, 8, 0 and 80 ticks of 960; beat two twice on its line.
    expect(taken.strokes).toEqual([4, 2]);
    expect(weakPoints(taken)).toEqual([false, false]);
    const wide = [0, 400, 1920, 2880].map((start) => ({ start, end: start + 50 }));
    const loose = takeGroove(noteTableOf(wide), 'x', '1/4', 4, timeline);
    expect(loose.strokes).toEqual([2, 0, 1, 1]);
    expect(weakPoints(loose)).toEqual([true, true, true, true]);
  });

  it('sixteenth swing 58 as a groove is swing 58 as a quantize', () => {
    const straight = [0, 240, 480, 720].map((start) => ({ start, end: start + 100 }));
    expect(column(run(straight, createStep('groove', { groove: 'sixteenth swing' })), 'start')).toEqual(
      [0, 278.4, 480, 758.4].map((tick) => expect.closeTo(tick, 9)),
    );
  });

  it('accents go by their distance from the mean, and a negative amount turns them round', () => {
    const groove = {
      name: 'x',
      grid: '1/4',
      beats: 2,
      points: [
        { at: 0, shift: 0, accent: 0.8 },
        { at: 1, shift: 0, accent: 0.4 },
      ],
    };
    const notes = [
      { start: 0, velocity: 64 },
      { start: 960, velocity: 64 },
    ];
    expect(column(run(notes, createStep('groove', { groove, velocity: 50 })), 'velocity')).toEqual(
      [64 + 12.7, 64 - 12.7].map((value) => expect.closeTo(value, 9)),
    );
    expect(column(run(notes, createStep('groove', { groove, velocity: -50 })), 'velocity')[0]).toBeCloseTo(
      64 - 12.7,
      9,
    );
  });

  it('a groove taken from a part made with a known groove comes back within a tick', () => {
    for (const groove of BUILT_IN_GROOVES) {
      const step = typeof groove.grid === 'string' ? ({ '1/8': 480, '1/16': 240 }[groove.grid] ?? 480) : 480;
      const straight = Array.from({ length: (groove.beats * 960 * 6) / step }, (_, index) => ({
        start: 3840 + index * step,
        end: 3840 + index * step + 60,
        velocity: 64,
      }));
      const played = run(straight, createStep('groove', { groove, straighten: 100 }));
      const taken = takeGroove(played, 'taken', groove.grid, groove.beats, timeline);
      taken.groove.points.forEach((point, index) =>
        expect(Math.abs(point.shift - groove.points[index].shift) * 960).toBeLessThan(1),
      );
      expect(Math.min(...taken.strokes)).toBeGreaterThan(0);
    }
  });

  it('align draws to the nearest stroke within reach, the earlier on a tie', () => {
    const other = noteTableOf([{ start: 1000 }, { start: 1200 }, { start: 5000 }]);
    const step = createStep('align', { to: 'drums', reachMs: 80 });
    const notes = [{ start: 1050 }, { start: 1100 }, { start: 1150 }, { start: 3000 }];
    expect(
      column(run(notes, step, { otherPart: (name) => (name === 'drums' ? other : null) }), 'start'),
    ).toEqual([1000, 1000, 1200, 3000]);
    expect(column(run(notes, { ...step, strength: 50 }, { otherPart: () => other }), 'start')).toEqual([
      1025, 1050, 1175, 3000,
    ]);
    expect(column(run(notes, step, { otherPart: () => null }), 'start')).toEqual([1050, 1100, 1150, 3000]);
  });

  it('align listens to some notes of the other part only: a bass to the kick', () => {
    const drums = noteTableOf([
      { start: 990, pitch: 42 },
      { start: 1020, pitch: 36 },
      { start: 1930, pitch: 42 },
      { start: 1960, pitch: 36 },
    ]);
    const step = createStep('align', { to: 'drums', toWhere: { drums: [35, 36] } });
    const notes = [{ start: 995 }, { start: 1925 }];
    expect(column(run(notes, step, { otherPart: () => drums }), 'start')).toEqual([1020, 1960]);
    const plain = createStep('align', { to: 'drums' });
    expect(column(run(notes, plain, { otherPart: () => drums }), 'start')).toEqual([990, 1930]);
  });
});
