import fc from 'fast-check';
import { createEvaluator } from '../evaluate';
import { readMidi, writeMidi } from '../midi';
import { listOf, orderedOf, sessionOfFile, timelineOf, type Part } from '../session';
import { createStep, type Step } from '../steps';
import { fileOfNotes, type PlainNote } from '../testing/files';
import { lateAgainst, meantPlaces } from './meant';
import { viewOfPart } from './viewOfPart';

// 480 ticks a quarter at 120 bpm: a tick is 1.04 ms.
const MS = 0.96;

function read(notes: PlainNote[], steps: Step[], isDrums = false) {
  let next = 0;
  const { session, takes } = sessionOfFile(
    readMidi(writeMidi(fileOfNotes(notes))).file,
    'Quay',
    () => `id${next++}`,
    0,
  );
  const [first] = listOf(session.parts);
  const part: Part = {
    ...first,
    sound: { ...first.sound, drums: isDrums },
    steps: orderedOf(steps.map((step, index) => ({ id: `s${index}`, step }))),
  };
  const timeline = timelineOf(session);
  const evaluation = createEvaluator(() => takes[0]).evaluate(part, session, timeline);
  const view = (stop = steps.length) =>
    viewOfPart({ stop, cleaned: false, grid: '1/16', details: false }, { part, evaluation, timeline });
  return { view, part, evaluation, timeline };
}
const stroke = (start: number, velocity = 80, pitch = 60): PlainNote => [start, start + 40, pitch, velocity];

describe('what is off the grid', () => {
  it('is told with how late the notes are on average, before a step and after', () => {
    // 120 bpm: 48 ticks of 480 are 50 ms.
    const late = [0, 480, 960].map((at) => stroke(at + 48));
    const { reading } = read(late, [createStep('nudge', { ms: -30 })]).view();
    expect(reading?.meanBeforeMs).toBeCloseTo(50, 6);
    expect(reading?.meanAfterMs).toBeCloseTo(20, 6);
  });

  it('is nothing a step keeps on purpose: grace strokes, rolled chords, what is near or too far', () => {
    const flams = [0, 480, 960].flatMap((at) => [stroke(at + 455, 40, 38), stroke(at + 487, 110, 38)]);
    const kept = read(flams, [createStep('quantize', { grid: '1/8' })], true).view();
    expect(kept.offMs[1]).toBeCloseTo(0, 3);
    expect(kept.offMs[0]).toBeGreaterThan(10);
    expect(kept.reading?.spreadAfterMs).toBeCloseTo(0, 3);
    const rolled = [stroke(485, 80, 60), stroke(495, 80, 64), stroke(503, 80, 67)];
    expect(read(rolled, [createStep('quantize', { chords: 'spread' })]).view().offMs[1]).toBeCloseTo(0, 3);
    const near = [stroke(484), stroke(972), stroke(1500)];
    const steps = [createStep('quantize', { grid: '1/4', leaveWithinMs: 20, leaveBeyond: 40 })];
    expect(read(near, steps).view().offMs[1]).toBeCloseTo(0, 3);
    // At four fifths of the way a fifth is left, of what is to move.
    const late = [stroke(480 + 30 * MS)];
    expect(read(late, [createStep('quantize', { strength: 80 })]).view().offMs[1]).toBeCloseTo(6, 0);
  });

  it('is measured against the grid of the step that touched a note last, in whatever order they stand', () => {
    const straight = [0, 1, 2, 3].map((at) => stroke(at * 120 + 9));
    const triplets = [0, 1, 2].map((at) => stroke(1920 + at * 160 + 7));
    const steps = [
      createStep('quantize', { grid: '1/16', where: { bars: [1, 2] } }),
      createStep('quantize', { grid: '1/8T', where: { bars: [2, 3] } }),
    ];
    for (const order of [steps, steps.toReversed()]) {
      const { view } = read([...straight, ...triplets], order);
      expect(view().offMs[2]).toBeCloseTo(0, 3);
      expect(view().measuredBy).toEqual(['1/16', '1/8T']);
    }
  });

  it('of what is played does not change with what a step is set to', () => {
    fc.assert(
      fc.property(
        fc.array(fc.integer({ min: 0, max: 4000 }), { minLength: 1, maxLength: 12 }),
        fc.constantFrom('1/4', '1/8T', '1/32'),
        fc.integer({ min: 50, max: 75 }),
        (starts, grid, swing) => {
          const notes = [...new Set(starts)].sort((a, b) => a - b).map((at) => stroke(at));
          const plain = read(notes, []).view();
          const stepped = read(notes, [createStep('quantize', { grid, swing, strength: 100 })]).view();
          expect(stepped.offMs[0]).toBe(plain.offMs[0]);
          // And at full strength nothing of what is left is off.
          expect(stepped.offMs[1]).toBeCloseTo(0, 3);
        },
      ),
    );
  });

  it('goes along with what comes after: a nudge is off by what it nudges, grace strokes too', () => {
    const flams = [stroke(455, 40, 38), stroke(487, 110, 38)];
    const steps = [createStep('quantize', { grid: '1/8' }), createStep('nudge', { ms: 12 })];
    const { view, part, evaluation, timeline } = read(flams, steps, true);
    expect([...view().late].map((ms) => Math.round(ms))).toEqual([12, 12]);
    const { notes } = evaluation.stages[0];
    const asPlayed = meantPlaces({ part, evaluation, stop: 2, shown: '1/16', timeline }, notes);
    expect([...lateAgainst(notes, asPlayed, timeline)].map((ms) => Math.round(ms))).toEqual([-26, 7]);
  });
});
