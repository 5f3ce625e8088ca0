import { z } from 'zod';
import { withColumns, type Material, type NoteTable } from '../model';
import { barNumbered, type Timeline } from '../time';
import { range, ranged } from './numberSettings';
import { stepBase } from './settings';
import { namesNoNotes, saysNoTicks, type StepContext, type StepKind } from './stepKind';
import { spanOf } from './moveAlong';

const schema = z.strictObject({
  kind: z.literal('velocity'),
  ...stepBase,
  set: ranged(1, 127, { usual: [1, 127], start: 80 }).optional(),
  scale: ranged(0, 1000, { unit: '%', usual: [0, 200], start: 100 }).optional(),
  add: ranged(-127, 127, { usual: [-64, 64], start: 10 }).optional(),
  compress: z
    .strictObject({
      ratio: ranged(0.1, 100, { usual: [0.5, 8], step: 0.1, start: 2 }),
      around: ranged(1, 127),
    })
    .optional(),
  ramp: z.strictObject({ from: ranged(1, 127, { start: 60 }), to: ranged(1, 127, { start: 96 }) }).optional(),
  limit: range(ranged(1, 127)).optional(),
  /** What is set, and the ramp, is what the notes have on average: each keeps its share of it. */
  relative: z.boolean('must be true or false').optional(),
});

export type VelocityStep = z.infer<typeof schema>;

/**
 * In this order, each where given: set; scale by percent; add; compress, around + (v - around) / ratio; ramp,
 * straight over the where; limit. With `relative` set and ramp scale instead of replacing: the mean of the touched
 * notes comes to the value, and each note keeps its ratio to it, so that accents and the voicing of chords stay.
 * Velocities stay real here and within 1-127.
 */
function apply(
  material: Material,
  step: VelocityStep,
  { timeline }: StepContext,
  touched: Uint8Array,
): Material {
  const { notes } = material;
  const span = spanOf(notes, touched);
  if (!span || describe(step) === NOTHING) return material;
  const velocity = notes.velocity.slice();
  const mean = step.relative ? meanOf(velocity, touched) : 0;
  /** A velocity brought to a value, which replaces it or is what the mean comes to. */
  const brought = (now: number, value: number) => (step.relative ? (now * value) / mean : value);
  const [first, last] = rampSpan(notes, step, timeline, touched);
  for (let row = 0; row < notes.length; row++) {
    if (touched[row] === 0) continue;
    let next = step.set === undefined ? velocity[row] : brought(velocity[row], step.set);
    if (step.scale !== undefined) next *= step.scale / 100;
    if (step.add !== undefined) next += step.add;
    if (step.compress) next = step.compress.around + (next - step.compress.around) / step.compress.ratio;
    if (step.ramp) {
      // A note played ahead of the first bar line is where the ramp begins.
      const share = last > first ? Math.max(0, (notes.start[row] - first) / (last - first)) : 0;
      const target = step.ramp.from + (step.ramp.to - step.ramp.from) * share;
      next = brought(velocity[row], target);
    }
    if (step.limit) next = Math.min(step.limit[1], Math.max(step.limit[0], next));
    velocity[row] = Math.min(127, Math.max(1, next));
  }
  return { ...material, notes: withColumns(notes, { velocity }) };
}

function meanOf(velocity: Float64Array, touched: Uint8Array): number {
  let [sum, count] = [0, 0];
  for (let row = 0; row < velocity.length; row++) {
    if (touched[row] === 0) continue;
    sum += velocity[row];
    count++;
  }
  return sum / count;
}

/** A ramp runs over the bars of the where; without bars from the first touched start to the last. */
function rampSpan(
  notes: NoteTable,
  step: VelocityStep,
  timeline: Timeline,
  touched: Uint8Array,
): [number, number] {
  const { bars } = step.where;
  if (bars) return [barNumbered(timeline.meter, bars[0]).start, barNumbered(timeline.meter, bars[1]).start];
  let [first, last] = [Infinity, -Infinity];
  for (let row = 0; row < notes.length; row++) {
    if (touched[row] === 0) continue;
    first = Math.min(first, notes.start[row]);
    last = Math.max(last, notes.start[row]);
  }
  return [first, last];
}

const NOTHING = 'nothing yet';

function describe(step: VelocityStep): string {
  const words = [
    ...(step.set !== undefined ? [`set ${step.set}`] : []),
    ...(step.scale !== undefined ? [`${step.scale} %`] : []),
    ...(step.add !== undefined ? [`${step.add >= 0 ? '+' : '−'}${Math.abs(step.add)}`] : []),
    ...(step.compress ? [`1:${step.compress.ratio} around ${step.compress.around}`] : []),
    ...(step.ramp ? [`ramp ${step.ramp.from} to ${step.ramp.to}`] : []),
    ...(step.limit ? [`${step.limit[0]} to ${step.limit[1]}`] : []),
  ];
  if (words.length === 0) return NOTHING;
  return [...words, ...(step.relative && (step.set !== undefined || step.ramp) ? ['on average'] : [])].join(
    ', ',
  );
}

/** Sets, scales, evens out or ramps velocities. */
export const velocity: StepKind<VelocityStep> = {
  kind: 'velocity',
  title: 'Velocity',
  work: 'loudness',
  hint: 'Scale, even out, ramp or limit loudness',
  schema,
  mapTicks: saysNoTicks,
  mapIds: namesNoNotes,
  apply,
  describe,
  measure: () => 'evenness',
  values: () => 'velocity',
};
