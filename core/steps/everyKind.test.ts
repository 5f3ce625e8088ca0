import fc from 'fast-check';
import { type Note } from '../model';
import { context, material, run, rows, anyNotes } from '../testing/stepBench';
import { STEP_KINDS, applyStep, createStep, type Step } from '.';

describe('every kind of step', () => {
  const NEUTRAL: Step[] = [
    createStep('nudge'),
    createStep('stretch'),
    createStep('transpose'),
    createStep('velocity'),
    createStep('humanize'),
    createStep('groove', { timing: 0 }),
    createStep('length', { noOverlap: false }),
    createStep('remove'),
    createStep('edits'),
    createStep('align', { to: 'x' }),
    createStep('score'),
    createStep('quantize', { strength: 0 }),
    createStep('curve', { op: 'scale' }),
    createStep('pedal', { op: 'shift' }),
    createStep('layout', { blocks: [{ from: 0, to: 100, at: 0 }] as never }),
    createStep('pulse', {
      beats: [
        [0, 0],
        [7, 7],
      ],
    }),
  ];
  it('changes nothing at neutral settings: the very same material comes back', () => {
    expect(new Set(NEUTRAL.map(({ kind }) => kind)).size).toBe(STEP_KINDS.length);
    fc.assert(
      fc.property(anyNotes, fc.constantFrom(...NEUTRAL), (notes, step) => {
        const input = material(notes);
        expect(applyStep(input, step, context)).toBe(input);
      }),
    );
  });

  it('stays in bounds, keeps order by start, and works on no notes, one note and a crowd at tick 0', () => {
    const strong: Step[] = [
      createStep('nudge', { ms: -5000, ticks: -7 }),
      createStep('stretch', { factor: 0.01 }),
      createStep('transpose', { semitones: 100, into: [30, 41] }),
      createStep('velocity', { scale: 1000, add: -127, compress: { ratio: 0.1, around: 64 } }),
      createStep('humanize', { timingMs: 500, velocity: 64, lengthPct: 100, drift: 70 }),
      createStep('groove', { groove: 'pushed', timing: 130, velocity: -100, straighten: 100 }),
      createStep('length', { scale: 1, legato: { gapTicks: 900 } }),
      createStep('remove', { doublesWithinMs: 50 }),
      createStep('layout', {
        blocks: [
          { from: 1, to: 3, at: -1, times: 3, stretch: 0.5, held: 'cut' },
          { from: 2, to: 9, at: 0 },
        ] as never,
      }),
    ];
    const crowd = Array.from({ length: 30 }, (_, index) => ({
      start: 0,
      end: 10,
      pitch: 60 + (index % 3),
      velocity: 1 + index,
    }));
    fc.assert(
      fc.property(
        fc.oneof(
          anyNotes,
          fc.constant<Partial<Note>[]>([]),
          fc.constant<Partial<Note>[]>([{ start: 0, end: 1 }]),
          fc.constant(crowd),
        ),
        fc.constantFrom(...strong),
        (notes, step) => {
          const after = run(notes, step);
          for (let row = 0; row < after.length; row++) {
            expect(after.start[row]).toBeGreaterThanOrEqual(0);
            expect(after.end[row] - after.start[row]).toBeGreaterThanOrEqual(1 - 1e-6);
            expect(after.velocity[row]).toBeGreaterThanOrEqual(1);
            expect(after.velocity[row]).toBeLessThanOrEqual(127);
            expect(after.pitch[row]).toBeLessThanOrEqual(127);
            if (row > 0) expect(after.start[row]).toBeGreaterThanOrEqual(after.start[row - 1]);
          }
        },
      ),
    );
  });

  it('touches nothing outside its where', () => {
    const outside = { pitch: [0, 10] as [number, number] };
    const all: Step[] = [
      createStep('nudge', { ms: 9, where: outside }),
      createStep('stretch', { factor: 2, where: outside }),
      createStep('transpose', { semitones: 2, where: outside }),
      createStep('velocity', { set: 9, where: outside }),
      createStep('humanize', { timingMs: 9, where: outside }),
      createStep('groove', { where: outside, groove: 'pushed' }),
      createStep('length', { set: '1/8', where: outside }),
      createStep('remove', { softerThan: 127, where: outside }),
    ];
    fc.assert(
      fc.property(anyNotes, fc.constantFrom(...all), (notes, step) =>
        expect(rows(run(notes, step))).toEqual(rows(material(notes).notes)),
      ),
    );
  });
});

describe('what leaves a step', () => {
  it('is never a place or a velocity that is no number: the step is named, and nothing is made of it', () => {
    const nowhere = { ...createStep('nudge'), ticks: NaN };
    expect(() => applyStep(material([{ start: 100, end: 200 }]), nowhere, context)).toThrow(
      'The step “Nudge” comes to a place or a velocity that is no number',
    );
  });

  it('leaves a span of no length as it is: there is nothing to stretch', () => {
    const input = material([{ start: 480, end: 480 }]);
    expect(applyStep(input, createStep('stretch', { toTicks: 240 }), context)).toBe(input);
  });
});
