import { z } from 'zod';
import { sortedByStart, withColumns, type Material } from '../model';
import { createGrid, nearestLines, quartersOf } from '../time';
import {
  BUILT_IN_GROOVES,
  createPointFinder,
  groovePatternSchema,
  type GroovePattern,
} from './groovePattern';
import { PERCENT, numberSetting } from './numberSettings';
import { stepBase } from './settings';
import { namesNoNotes, saysNoTicks, type StepCommon, type StepContext, type StepKind } from './stepKind';
import type { Where } from './where';

const NAMES = BUILT_IN_GROOVES.map(({ name }) => name);

const schema = z.strictObject({
  kind: z.literal('groove'),
  ...stepBase,
  groove: z
    .union(
      [z.enum(NAMES as [string, ...string[]]), groovePatternSchema],
      `must be a groove, or the name of one: ${NAMES.join(', ')}`,
    )
    .default('sixteenth swing'),
  timing: numberSetting(0, 130, 100, PERCENT),
  velocity: numberSetting(-100, 100, 0, PERCENT),
  straighten: numberSetting(0, 100, 0, PERCENT),
});

export type GrooveStep = z.infer<typeof schema>;

/** The pattern a step names or carries. */
export function patternOf(step: Pick<GrooveStep, 'groove'>): GroovePattern {
  const { groove } = step;
  if (typeof groove !== 'string') return groove;
  return BUILT_IN_GROOVES.find(({ name }) => name === groove) ?? BUILT_IN_GROOVES[0];
}

/**
 * First a plain quantize to the groove's grid at strength `straighten`; then start + timing/100 x shift and velocity
 * + velocity/100 x 127 x (accent - mean accent) by the point a note belongs to. Ends move along.
 */
function apply(
  material: Material,
  step: GrooveStep,
  { timeline }: StepContext,
  touched: Uint8Array,
): Material {
  const { notes } = material;
  if (notes.length === 0 || (step.timing === 0 && step.velocity === 0 && step.straighten === 0))
    return material;
  const pattern = patternOf(step);
  const find = createPointFinder(pattern, timeline);
  const meanAccent = pattern.points.reduce((sum, { accent }) => sum + accent, 0) / pattern.points.length;
  const lines = new Float64Array(notes.length);
  nearestLines(createGrid(timeline.meter, [pattern.grid]), notes.start, lines);
  const start = notes.start.slice();
  const end = notes.end.slice();
  const velocity = notes.velocity.slice();
  for (let row = 0; row < notes.length; row++) {
    if (touched[row] === 0) continue;
    const straight =
      step.straighten === 100
        ? lines[row]
        : notes.start[row] + (step.straighten / 100) * (lines[row] - notes.start[row]);
    const point = pattern.points[find(straight)];
    const shift = point ? (step.timing / 100) * point.shift * timeline.ticksPerQuarter : 0;
    start[row] = Math.max(0, straight + shift);
    end[row] = start[row] + Math.max(1, notes.end[row] - notes.start[row]);
    if (point && step.velocity !== 0) {
      velocity[row] = Math.min(
        127,
        Math.max(1, velocity[row] + (step.velocity / 100) * 127 * (point.accent - meanAccent)),
      );
    }
  }
  return { ...material, notes: sortedByStart(withColumns(notes, { start, end, velocity })) };
}

/**
 * A groove that comes on top of an earlier one: the earlier one's name and the farthest shift of both, in steps of
 * the grid.
 */
export interface StackedGroove {
  name: string;
  share: number;
}

/**
 * Whether the groove at `index` of a list of steps adds its shifts to those of an earlier one: when both are on, move
 * something, may touch the same bars, and this one does not straighten wholly first. Null otherwise.
 */
export function stackedGroove(steps: readonly StepCommon[], index: number): StackedGroove | null {
  const isGroove = (step: StepCommon | undefined): step is GrooveStep =>
    step?.kind === 'groove' && step.on && (step as GrooveStep).timing > 0;
  const step = steps[index];
  if (!isGroove(step) || step.straighten === 100) return null;
  const shiftsOf = ({ timing, ...rest }: GrooveStep) => {
    const { points, grid } = patternOf(rest);
    return { shifts: points.map(({ shift }) => (timing / 100) * shift), step: quartersOf(grid) };
  };
  const own = shiftsOf(step);
  const before = steps
    .slice(0, index)
    .filter(isGroove)
    .filter(({ where }) => mayMeet(where, step.where));
  const last = before.at(-1);
  if (!last || own.shifts.every((shift) => shift === 0)) return null;
  const earlier = shiftsOf(last);
  if (earlier.shifts.every((shift) => shift === 0)) return null;
  const kept = 1 - step.straighten / 100;
  // Where the two have other lines, the farthest of each stand for them.
  const sums =
    earlier.shifts.length === own.shifts.length
      ? own.shifts.map((shift, point) => shift + kept * earlier.shifts[point])
      : [farthest(own.shifts) + kept * farthest(earlier.shifts)];
  return { name: patternOf(last).name, share: Math.abs(farthest(sums)) / own.step };
}

const farthest = (shifts: readonly number[]): number =>
  shifts.reduce((most, shift) => (Math.abs(shift) > Math.abs(most) ? shift : most), 0);

const mayMeet = ({ bars: a }: Where, { bars: b }: Where): boolean => !a || !b || (a[0] < b[1] && b[0] < a[1]);

function describe(step: GrooveStep): string {
  const words = [patternOf(step).name, `${step.timing} %`];
  if (step.velocity !== 0) words.push(`accents ${step.velocity} %`);
  if (step.straighten > 0) words.push(`straightened ${step.straighten} %`);
  return words.join(', ');
}

/** Gives a part the timing and accents of a pattern. */
export const groove: StepKind<GrooveStep> = {
  kind: 'groove',
  title: 'Groove',
  work: 'feel',
  hint: 'Timing and accents of a pattern',
  schema,
  // It changes nothing until a groove is picked or an amount is set.
  start: ({ facts: { grid } }) => ({
    groove: grid.startsWith('1/4') || grid.startsWith('1/8') ? 'eighth swing' : 'sixteenth swing',
    timing: 0,
  }),
  mapTicks: saysNoTicks,
  mapIds: namesNoNotes,
  apply,
  describe,
  movesTime: true,
};
