import fc from 'fast-check';
import { noteTableOf } from '../model';
import { STEP_KINDS, applyStep, createStep, stepSchema } from '../steps';
import { anyNotes, context, material, run, timeline } from '../testing/stepBench';
import { partFacts, readValues, startingStep, VALUE_BINS } from '.';

const from = (notes: Parameters<typeof noteTableOf>[0], isDrums = false) => ({
  facts: partFacts(noteTableOf(notes), timeline),
  isDrums,
  alignTo: 'kit',
  isOneOfSeveral: false,
});

describe('settings a step starts from', () => {
  it('are valid for any part, of every kind', () => {
    fc.assert(
      fc.property(anyNotes, fc.boolean(), (notes, isDrums) => {
        for (const { kind } of STEP_KINDS) {
          const step = startingStep(kind, from(notes, isDrums));
          expect(stepSchema.parse(step)).toEqual(step);
        }
      }),
    );
  });

  it('fit what is in the part: its grid, its chords, its lateness, its loudness', () => {
    const late = [1, 2, 3, 4, 5].flatMap((beat) =>
      [60, 64].map((pitch) => ({ start: beat * 960 + 38.4, end: beat * 960 + 700, pitch, velocity: 50 })),
    );
    expect(startingStep('quantize', from(late))).toMatchObject({
      grid: '1/4',
      strength: 80,
      chords: 'spread',
    });
    expect(startingStep('quantize', from(late, true))).toMatchObject({ chords: 'each' });
    expect(startingStep('groove', from(late))).toMatchObject({
      groove: 'eighth swing',
      timing: 0,
      straighten: 0,
    });
    for (const kind of ['groove', 'velocity'] as const) {
      const input = material(late);
      expect(applyStep(input, startingStep(kind, from(late)), context)).toBe(input);
    }
    const nudge = startingStep('nudge', from(late));
    expect(nudge).toMatchObject({ ms: -20 });
    expect(run(late, nudge).start[0]).toBeCloseTo(960, 6);
    expect(startingStep('stretch', from(late))).toMatchObject({ anchor: 'bar' });
    expect(startingStep('stretch', { ...from(late), isOneOfSeveral: true })).toMatchObject({
      anchor: 'session',
    });
    expect(startingStep('stretch', from(late), { notes: [3] })).toMatchObject({ anchor: 'start' });
    expect(startingStep('align', from(late))).toMatchObject({ to: 'kit' });
    expect(startingStep('quantize', from(late), { notes: [3] }).where).toEqual({ notes: [3] });
  });

  it('remove takes touched keys for mistakes, strokes of drums not', () => {
    const touched = [
      { start: 0, end: 20 },
      { start: 960, end: 1900 },
    ];
    expect(startingStep('remove', from(touched))).toMatchObject({ shorterThanMs: 25, doublesWithinMs: 40 });
    expect(startingStep('remove', from(touched, true))).not.toHaveProperty('shorterThanMs');
  });
});

describe('reading velocities and lengths', () => {
  it('counts every touched note once before and once after, and tells how many changed', () => {
    fc.assert(
      fc.property(anyNotes, fc.integer({ min: -60, max: 60 }), (notes, add) => {
        const before = material(notes).notes;
        const after = run(notes, createStep('velocity', { add }));
        const reading = readValues(before, after, 'velocity', {}, timeline);
        const total = (bins: Uint32Array) => bins.reduce((sum, count) => sum + count, 0);
        expect([total(reading.before), total(reading.after), reading.touched]).toEqual([
          notes.length,
          notes.length,
          notes.length,
        ]);
        expect(reading.changed).toBe(
          notes.filter((note) => note.velocity !== Math.min(127, Math.max(1, note.velocity + add))).length,
        );
      }),
    );
  });

  it('lengths are in ms, in round bins, the longest in the last', () => {
    const notes = [
      { start: 0, end: 960 },
      { start: 0, end: 960, pitch: 62 },
      { start: 2000, end: 2000 + 96 * 960, pitch: 64 },
    ];
    const step = createStep('length', { scale: 50 });
    const reading = readValues(material(notes).notes, run(notes, step), 'ms', {}, context.timeline);
    expect([reading.medianBefore, reading.medianAfter, reading.changed]).toEqual([500, 250, 3]);
    // Halved, they are half as uneven.
    expect(reading.deviationAfter).toBeCloseTo(reading.deviationBefore / 2, 6);
    expect(
      readValues(material([]).notes, material([]).notes, 'ms', {}, context.timeline).deviationBefore,
    ).toBe(0);
    expect(reading.before[Math.floor(500 / reading.width)]).toBe(2);
    expect(reading.before[VALUE_BINS - 1]).toBe(1);
    // Only what the where names is read; what is removed counts before only.
    const removed = run(notes, createStep('remove', { softerThan: 127 }));
    const gone = readValues(
      material(notes).notes,
      removed,
      'velocity',
      { pitch: [62, 62] },
      context.timeline,
    );
    expect([gone.touched, gone.changed, gone.after.some(Boolean)]).toEqual([1, 0, false]);
  });
});
