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

  it('warns of lines that are hardly farther apart than the playing spreads', () => {
    const advice = gridAdviceOf(eighths(64, 0, 60).notes, timeline);
    expect(advice.find(({ grid }) => grid === '1/32')).toMatchObject({ isTooFine: true });
    expect(advice.find(({ grid }) => grid === '1/4')).toMatchObject({ isTooFine: false });
  });
});
