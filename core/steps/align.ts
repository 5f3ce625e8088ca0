import { z } from 'zod';
import { sortedByStart, type Material } from '../model';
import { firstAtOrAfter, ticksToSeconds } from '../time';
import { numberSetting, stepBase } from './settings';
import type { StepContext, StepKind } from './stepKind';

const schema = z.strictObject({
  kind: z.literal('align'),
  ...stepBase,
  to: z.string('must be the id or name of a part').default(''),
  strength: numberSetting(0, 100, 100),
  reachMs: numberSetting(0, 2000, 80),
});

export type AlignStep = z.infer<typeof schema>;

/** Draws each start toward the nearest stroke of another part within reach, by strength; a tie goes to the earlier. Ends move along. */
function apply(
  material: Material,
  step: AlignStep,
  { timeline, otherPart }: StepContext,
  touched: Uint8Array,
): Material {
  const other = otherPart?.(step.to);
  if (!other || other.length === 0 || step.strength === 0) return material;
  const { notes } = material;
  const strokes = other.start;
  const start = notes.start.slice();
  const end = notes.end.slice();
  const second = (tick: number) => ticksToSeconds(timeline.tempo, tick);
  let moved = false;
  for (let row = 0; row < notes.length; row++) {
    if (touched[row] === 0) continue;
    const place = notes.start[row];
    const after = firstAtOrAfter(strokes, place);
    const near = [after - 1, after]
      .filter((index) => index >= 0 && index < strokes.length)
      .map((index) => ({
        stroke: strokes[index],
        distance: Math.abs(second(strokes[index]) - second(place)),
      }))
      .reduce<{ stroke: number; distance: number } | null>(
        (best, each) => (best === null || each.distance < best.distance - 1e-12 ? each : best),
        null,
      );
    if (!near || near.distance * 1000 > step.reachMs + 1e-9) continue;
    start[row] = step.strength === 100 ? near.stroke : place + (step.strength / 100) * (near.stroke - place);
    end[row] = start[row] + Math.max(1, notes.end[row] - place);
    moved ||= start[row] !== place;
  }
  return moved ? { ...material, notes: sortedByStart({ ...notes, start, end }) } : material;
}

/** Draws the notes of a part to the strokes of another. */
export const align: StepKind<AlignStep> = {
  kind: 'align',
  title: 'Align',
  hint: 'Draw notes to the strokes of another part',
  schema,
  apply,
  describe: ({ to, strength, reachMs }) =>
    to === '' ? 'to no part yet' : `${strength} %, within ${reachMs} ms`,
  reference: ({ to }) => to,
};
