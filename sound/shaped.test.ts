import {
  applyStep,
  blendedPlayback,
  createEventBuilder,
  createStep,
  createTimeline,
  noteTableOf,
  type CurveStep,
  type Note,
  type PedalStep,
  type Step,
} from '@ordle/core';
import { RATE, frequencyOf, loudnessOf, render, scoreOf } from './testing/sound';

const timeline = createTimeline(
  { kind: 'metrical', ticksPerQuarter: 480 },
  [{ tick: 0, microsecondsPerQuarter: 500000 }],
  [],
);
/** Ticks of a second at 120 bpm. */
const SECOND = 960;
const context = { timeline, isDrums: false, channel: 0 };

/** Notes with some steps, rendered: what a person hears after the steps. */
async function heard(
  notes: Partial<Note>[],
  steps: Step[],
  program: number,
  seconds: number,
  events = createEventBuilder().build(),
) {
  const material = steps.reduce((now, step) => applyStep(now, step, context), {
    notes: noteTableOf(notes),
    events,
  });
  return render(scoreOf(blendedPlayback(material, material, 1, timeline.tempo), { program }), seconds);
}
const curve = (settings: object) => createStep('curve', settings as Partial<CurveStep>);
const pedal = (settings: object) => createStep('pedal', settings as Partial<PedalStep>);
/** Registered parameter 0 set to some semitones. */
function rangeOf(semitones: number) {
  const builder = createEventBuilder();
  for (const [number, value] of [[101, 0], [100, 0], [6, semitones]]) builder.add(0, 0xb0, number, value); // prettier-ignore
  return builder.build();
}

describe('what shaped lanes sound like', () => {
  const A4 = [{ start: 0, end: 2 * SECOND, pitch: 69, velocity: 100 }];
  const hzOf = (cents: number) => 440 * 2 ** (cents / 1200);

  it.each([
    [100, 2], [-150, 2], [50, 12], [700, 12],
  ])('a bend of %i cents at a range of %i semitones sounds at its pitch', async (cents, semitones) => {
    const bent = curve({ lane: 'bend', op: 'draw', points: [{ at: 0, value: cents }] });
    const samples = await heard(A4, [bent], 73, 1.2, rangeOf(semitones));
    const frequency = frequencyOf(samples.subarray(0.5 * RATE, 1 * RATE), hzOf(cents));
    // Within six cents: the sample's own vibrato and the ear's limit lie beyond that.
    expect(Math.abs(1200 * Math.log2(frequency / hzOf(cents)))).toBeLessThan(6);
  }); // prettier-ignore

  it('a ramp of the bend goes up in pitch and arrives', async () => {
    const ramp = curve({ lane: 'bend', op: 'ramp', from: 0, to: 200, where: { bars: [1, 2] } });
    const samples = await heard([{ ...A4[0], end: 4 * SECOND }], [ramp], 73, 3.2);
    const at = (second: number) =>
      frequencyOf(samples.subarray((second - 0.05) * RATE, (second + 0.05) * RATE), 470);
    expect(at(0.5)).toBeLessThan(at(1.2));
    expect(at(1.2)).toBeLessThan(at(1.9));
    const isNear = (second: number, cents: number) =>
      expect(Math.abs(1200 * Math.log2(at(second) / hzOf(cents)))).toBeLessThan(15);
    isNear(1.94, 194);
    // Behind it the bend, which had held nothing, is at rest again.
    isNear(2.8, 0);
  });

  it('a pedalled chord rings to the release of the pedal, and no farther', async () => {
    const chord = [60, 64, 67].map((pitch) => ({ start: 0, end: 0.25 * SECOND, pitch, velocity: 100 }));
    const pressed = pedal({ op: 'draw', spans: [[10, 1.5 * SECOND]] });
    const [dry, rung] = [await heard(chord, [], 0, 2.6), await heard(chord, [pressed], 0, 2.6)];
    const between = (samples: Float32Array, from: number, to: number) =>
      loudnessOf(samples.subarray(from * RATE, to * RATE));
    expect(between(rung, 1, 1.4)).toBeGreaterThan(20 * between(dry, 1, 1.4));
    expect(between(rung, 2.2, 2.6)).toBeLessThan(between(rung, 1, 1.4) / 20);
    // Turned into lengths by the step for it, the pedal away, it rings as long.
    const held = createStep('length', { hold: 'fromPedal', noOverlap: false });
    const lengths = await heard(chord, [pressed, held, pedal({ op: 'remove' })], 0, 2.6);
    expect(between(lengths, 1, 1.4) / between(rung, 1, 1.4)).toBeCloseTo(1, 1);
  });

  it('expression drawn down to nothing is not heard', async () => {
    const down = curve({ lane: 'cc11', op: 'ramp', from: 127, to: 0, where: { bars: [1, 2] } });
    const samples = await heard([{ ...A4[0], end: 4 * SECOND }], [down], 73, 2.6);
    const between = (from: number, to: number) => loudnessOf(samples.subarray(from * RATE, to * RATE));
    expect(between(1.9, 1.98)).toBeLessThan(between(0.3, 0.7) / 30);
    // Behind it expression, which had held nothing, is at rest again.
    expect(between(2.3, 2.6)).toBeGreaterThan(between(1.9, 1.98) * 30);
  });
});
