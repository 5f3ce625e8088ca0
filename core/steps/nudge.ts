import { z } from 'zod';
import { sortedByStart, withColumns, type Material } from '../model';
import { nameOfNoteValue, quartersOf, secondsToTicks, ticksToSeconds } from '../time';
import { endsAtOthers, movedAlong, spanOf } from './moveAlong';
import { numberSetting, whole } from './numberSettings';
import { noteValueSchema, stepBase } from './settings';
import { namesNoNotes, type StepContext, type StepKind } from './stepKind';

const schema = z.strictObject({
  kind: z.literal('nudge'),
  ...stepBase,
  ms: numberSetting(-60000, 60000, 0, { unit: 'ms', usual: [-100, 100] }),
  ticks: numberSetting(-1e9, 1e9, 0, { unit: 'ticks' }),
  grid: noteValueSchema.default('1/16'),
  steps: whole(-10000, 10000).default(0),
  /** What would come before the start: each note goes to it by itself, or all move only as far as the first can. */
  atStart: z.enum(['squeeze', 'stop'], 'must be "squeeze" or "stop"').optional(),
});

export type NudgeStep = z.infer<typeof schema>;

/**
 * New place = place + ticks + steps x grid, then `ms` later by the tempo there. Nothing goes below 0; lengths stay.
 * With `atStart` "stop" everything moves only as far as the first touched note can.
 */
function apply(
  material: Material,
  step: NudgeStep,
  { timeline, channel, beside }: StepContext,
  touched: Uint8Array,
): Material {
  const { tempo } = timeline;
  const wanted = step.ticks + step.steps * quartersOf(step.grid) * timeline.ticksPerQuarter;
  const first = step.atStart === 'stop' ? (spanOf(material.notes, touched)?.from ?? 0) : Infinity;
  const ticks = Math.max(wanted, -first);
  const seconds = Math.max(
    step.ms / 1000,
    first === Infinity ? -Infinity : -ticksToSeconds(tempo, first + ticks),
  );
  if (ticks === 0 && seconds === 0) return material;
  const place = (tick: number) =>
    seconds === 0 ? tick + ticks : secondsToTicks(tempo, ticksToSeconds(tempo, tick + ticks) + seconds);
  const { notes, events } = material;
  const start = notes.start.slice();
  const end = notes.end.slice();
  for (let row = 0; row < notes.length; row++) {
    if (touched[row] === 0) continue;
    start[row] = Math.max(0, place(notes.start[row]));
    end[row] = start[row] + (notes.end[row] - notes.start[row]);
  }
  const along = movedAlong(events, { notes, touched, where: step.where, timeline, channel, beside, place });
  if (!touched.includes(1)) return along === events ? material : { notes, events: along };
  return { notes: sortedByStart(withColumns(notes, { start, end })), events: along };
}

function describe({ ms, ticks, grid, steps }: NudgeStep): string {
  const signed = (value: number, unit: string) => `${value > 0 ? '+' : '−'}${Math.abs(value)} ${unit}`;
  const words = [
    ...(ms !== 0 ? [signed(ms, 'ms')] : []),
    ...(ticks !== 0 ? [signed(ticks, 'ticks')] : []),
    ...(steps !== 0 ? [signed(steps, `× ${nameOfNoteValue(grid)}`)] : []),
  ];
  return words.join(', ') || 'nowhere yet';
}

/** Less lateness than this throughout a part is no habit worth taking out. */
const LEAST_BIAS_MS = 3;

/** Moves notes and their controllers earlier or later. */
export const nudge: StepKind<NudgeStep> = {
  kind: 'nudge',
  title: 'Nudge',
  work: 'time',
  hint: 'Earlier or later by ms, ticks or grid units',
  schema,
  start: ({ facts: { biasMs } }) => ({ ms: Math.abs(biasMs) < LEAST_BIAS_MS ? 0 : -Math.round(biasMs) }),
  mapTicks: (step, { length }) => ({ ...step, ticks: length(step.ticks) }),
  mapIds: namesNoNotes,
  apply,
  describe,
  measure: () => 'lateness',
  movesTime: true,
  readsChannel: ({ where }) => (endsAtOthers(where) ? ['notes'] : []),
};
