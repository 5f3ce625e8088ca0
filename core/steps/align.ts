import { z } from 'zod';
import { sortedByStart, withColumns, type Material, type NoteTable } from '../model';
import { firstAtOrAfter, ticksToSeconds, type Timeline } from '../time';
import { describeWhere, touchedRows, whereSchema } from './where';
import { PERCENT, numberSetting } from './numberSettings';
import { stepBase } from './settings';
import { namesNoNotes, saysNoTicks, type StepContext, type StepKind } from './stepKind';

const schema = z.strictObject({
  kind: z.literal('align'),
  ...stepBase,
  to: z.string('must be the id or name of a part').default(''),
  /** Which of the other part's notes are strokes to align to, as a where of that part. */
  toWhere: whereSchema.optional(),
  strength: numberSetting(0, 100, 100, PERCENT),
  reachMs: numberSetting(0, 2000, 80, { unit: 'ms', usual: [0, 250] }),
});

export type AlignStep = z.infer<typeof schema>;

/**
 * The stroke of the other part each note is pulled toward, in ticks; NaN where none is within reach or the note is
 * not touched. A tie goes to the earlier stroke.
 */
export function strokesOf(
  starts: Float64Array,
  touched: Uint8Array,
  strokes: Float64Array,
  reachMs: number,
  { tempo }: Timeline,
): Float64Array {
  const pulledTo = new Float64Array(starts.length).fill(NaN);
  const reach = reachMs / 1000 + 1e-12;
  for (let row = 0; row < starts.length; row++) {
    if (touched[row] === 0) continue;
    const here = ticksToSeconds(tempo, starts[row]);
    const after = firstAtOrAfter(strokes, starts[row]);
    let nearest = Infinity;
    for (const index of [after - 1, after]) {
      if (index < 0 || index >= strokes.length) continue;
      const distance = Math.abs(ticksToSeconds(tempo, strokes[index]) - here);
      if (distance > reach || distance >= nearest - 1e-12) continue;
      nearest = distance;
      pulledTo[row] = strokes[index];
    }
  }
  return pulledTo;
}

/** The starts of the other part that count as strokes. */
function strokesIn(other: NoteTable, { toWhere }: AlignStep, timeline: Timeline): Float64Array {
  if (!toWhere || Object.keys(toWhere).length === 0) return other.start;
  const counts = touchedRows(other, toWhere, timeline);
  return other.start.filter((_, row) => counts[row] === 1);
}

/** Pulls each start toward the nearest stroke of another part within reach, by strength. Ends move along. */
function apply(
  material: Material,
  step: AlignStep,
  { timeline, otherPart }: StepContext,
  touched: Uint8Array,
): Material {
  const other = otherPart?.(step.to);
  if (!other || other.length === 0 || step.strength === 0) return material;
  const { notes } = material;
  const strokes = strokesIn(other, step, timeline);
  const pulledTo = strokesOf(notes.start, touched, strokes, step.reachMs, timeline);
  const start = notes.start.slice();
  const end = notes.end.slice();
  let moved = false;
  for (let row = 0; row < notes.length; row++) {
    const stroke = pulledTo[row];
    const place = notes.start[row];
    if (Number.isNaN(stroke) || stroke === place) continue;
    start[row] = step.strength === 100 ? stroke : place + (step.strength / 100) * (stroke - place);
    end[row] = start[row] + Math.max(1, notes.end[row] - place);
    moved = true;
  }
  return moved ? { ...material, notes: sortedByStart(withColumns(notes, { start, end })) } : material;
}

/** Pulls the notes of a part toward the strokes of another. */
export const align: StepKind<AlignStep> = {
  kind: 'align',
  title: 'Align',
  work: 'time',
  hint: 'Pull notes toward another part’s strokes',
  schema,
  start: ({ alignTo }) => ({ to: alignTo, strength: 80 }),
  mapTicks: saysNoTicks,
  mapIds: namesNoNotes,
  apply,
  describe: ({ to, toWhere, strength, reachMs }) =>
    to === ''
      ? 'to no part yet'
      : [
          ...(toWhere && Object.keys(toWhere).length > 0 ? [`to ${describeWhere(toWhere)}`] : []),
          `${strength} %, within ${reachMs} ms`,
        ].join(', '),
  reference: ({ to }) => to,
  withReference: (step, to) => ({ ...step, to }),
  movesTime: true,
  targets: (step, notes, other, timeline) =>
    strokesOf(
      notes.start,
      touchedRows(notes, step.where, timeline),
      strokesIn(other, step, timeline),
      step.reachMs,
      timeline,
    ),
};
