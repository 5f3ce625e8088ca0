import { createStep, applyStep } from '../steps';
import { MS, context, material } from '../testing/stepBench';
import { chanceOf } from '../steps/random';
import { gridAdviceOf, lieOf, measureNotes, suggestionFor } from '.';

// 960 ticks a quarter at 120 bpm: an eighth is 480 ticks, 250 ms.
const { timeline } = context;

/** Between -1 and 1; every two cancel out. */
const off = (at: number) => (at % 2 === 0 ? 1 : -1) * (2 * chanceOf(7, at >> 1, 0) - 1);

/** So many eighths, `late` ms late on average and spread as wide again as `loose` ms to either side. */
const eighths = (count: number, late: number, loose: number) => {
  return material(
    Array.from({ length: count }, (_, at) => {
      const start = 480 + at * 480 + (late + loose * off(at)) * MS;
      return { start, end: start + 300, pitch: 48 + (at % 5) };
    }),
  );
};

describe('a suggested clean-up', () => {
  it('takes a habit back first and then draws to the lines; its figures are what the steps come to', () => {
    const played = eighths(64, 14, 20);
    const suggestion = suggestionFor(played, [], context);
    expect(suggestion?.steps.map(({ kind }) => kind)).toEqual(['nudge', 'quantize']);
    expect(suggestion?.steps[1]).toMatchObject({ grid: '1/8', strength: 80 });
    expect(suggestion?.reasons[0]).toMatch(/^it is 14 ms late on average$/);
    const cleaned = (suggestion?.steps ?? []).reduce(
      (input, step) => applyStep(input, step, context),
      played,
    );
    const after = lieOf(measureNotes(cleaned, { grids: ['1/8'], swing: 50 }, timeline));
    expect(suggestion?.after.spreadMs).toBeCloseTo(after.spreadMs, 9);
    expect(suggestion?.after.spreadMs).toBeCloseTo((suggestion?.before.spreadMs ?? 0) / 5, 6);
    expect(Math.abs(after.biasMs)).toBeLessThan(1);
  });

  it('says nothing of what is tight, of a few notes, or where a step already puts it in time', () => {
    for (const quiet of [eighths(64, 0, 4), eighths(5, 40, 20), material([])])
      expect(suggestionFor(quiet, [], context)).toMatchObject({ steps: [], isFree: false });
    expect(suggestionFor(eighths(64, 14, 20), [createStep('quantize', {})], context)).toBeNull();
    expect(
      suggestionFor(eighths(64, 14, 20), [createStep('quantize', { on: false })], context),
    ).not.toBeNull();
  });

  it('sends a part that follows no bars to have its beats found, without a step', () => {
    // A steady pulse of its own: 0.83 s a beat under 120 bpm.
    const free = material(
      Array.from({ length: 48 }, (_, at) => ({ start: at * 797, end: at * 797 + 500, pitch: 60 })),
    );
    const suggestion = suggestionFor(free, [], context);
    expect(suggestion?.steps).toEqual([]);
    expect(suggestion?.reasons[0]).toContain('find its beats');
  });
});

describe('grid advice', () => {
  it('counts the notes that a grid would take to another place than is meant', () => {
    const advice = new Map(gridAdviceOf(eighths(32, 0, 5).notes, timeline).map((each) => [each.grid, each]));
    expect(advice.get('1/8')).toMatchObject({ astray: 0, isTooFine: false, stepMs: expect.closeTo(250, 6) });
    // Every second eighth lies between two quarters.
    expect(advice.get('1/4')?.astray).toBe(16);
    expect(advice.get('1/8T')?.astray).toBe(16);
    expect(advice.get('1/16')?.astray).toBe(0);
    expect(gridAdviceOf(material([]).notes, timeline)).toEqual([]);
  });

  it('says of a shuffle that its own lines come first, and what straight ones would flatten', () => {
    const shuffle = material(
      Array.from({ length: 64 }, (_, at) => {
        const start = 960 * (at >> 1) + (at % 2) * 614 + 14 * off(at) * MS;
        return { start, end: start + 300, pitch: 48 + (at % 5) };
      }),
    );
    const [first, ...others] = gridAdviceOf(shuffle.notes, timeline);
    expect(Math.abs(first.swing - 64)).toBeLessThanOrEqual(1);
    expect(first).toMatchObject({ grid: '1/8', isLikely: true, astray: 0, flattened: 0 });
    expect(others.find(({ grid }) => grid === '1/8')).toMatchObject({ swing: 50, flattened: 32, astray: 0 });
    // What was written comes with the coarsest grid that explains all.
    const written = material(
      Array.from({ length: 32 }, (_, at) => ({ start: at * 480, end: at * 480 + 400, pitch: 60 })),
    );
    expect(gridAdviceOf(written.notes, timeline)[0]).toMatchObject({ grid: '1/8', fit: 1, isLikely: true });
    expect(suggestionFor(shuffle, [], context)?.steps.at(-1)).toMatchObject({
      grid: '1/8',
      swing: first.swing,
    });
  });

  it('keeps rolls by the note on the beat, grace notes with theirs, and triplet bars apart', () => {
    for (const habit of ['first', 'last'] as const) {
      const played = material(
        Array.from({ length: 32 }, (_, at) => {
          const size = 2 + (at % 4);
          return Array.from({ length: size }, (_, note) => {
            const ahead = habit === 'first' ? note : note - size + 1;
            const start = 960 + at * 960 + (ahead * 14 + 16 * off(at)) * MS;
            return { start, end: start + 700, pitch: 48 + 4 * note };
          });
        }).flat(),
      );
      const suggestion = suggestionFor(played, [], context);
      const quantize = suggestion?.steps.at(-1);
      expect(quantize).toMatchObject({
        grid: '1/4',
        chords: 'spread',
        ...(habit === 'last' && { chordOn: 'last' }),
      });
      expect(suggestion?.after.offMs).toBeLessThan(3);
    }
    const bars = material(
      Array.from({ length: 12 }, (_, bar) => {
        const count = bar % 4 === 3 ? 12 : 8;
        return Array.from({ length: count }, (_, at) => {
          const start = bar * 3840 + (at * 3840) / count + 12 * off(at + bar) * MS + 10;
          return { start: Math.max(0, start), end: start + 200, pitch: 50 + (at % 7) };
        });
      }).flat(),
    );
    const grids = (suggestionFor(bars, [], context)?.steps ?? []).filter(({ kind }) => kind === 'quantize');
    expect(grids.map((step) => 'grid' in step && [step.grid, step.where.bars])).toEqual([
      ['1/8', [1, 4]], ['1/8T', [4, 5]], ['1/8', [5, 8]], ['1/8T', [8, 9]], ['1/8', [9, 12]], ['1/8T', [12, 13]],
    ]); // prettier-ignore
  });

  it('warns of lines that are hardly farther apart than the playing spreads', () => {
    const advice = gridAdviceOf(eighths(64, 0, 60).notes, timeline);
    expect(advice.find(({ grid }) => grid === '1/32')).toMatchObject({ isTooFine: true });
    expect(advice.find(({ grid }) => grid === '1/4')).toMatchObject({ isTooFine: false });
  });
});
