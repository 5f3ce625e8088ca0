import { z } from 'zod';
import { sortedByStart, withColumns, type Material, type NoteTable } from '../model';
import { barNumbered, createMusicalBars, musicalPlaces, type Timeline } from '../time';
import { endsAtOthers, movedAlong, spanOf } from './moveAlong';
import { numberSetting, settingFacts } from './numberSettings';
import { stepBase } from './settings';
import { namesNoNotes, type StepContext, type StepKind, type StepCommon } from './stepKind';

const schema = z.strictObject({
  kind: z.literal('stretch'),
  ...stepBase,
  factor: numberSetting(0.01, 100, 1, { step: 0.0001 }),
  toTicks: z
    .number('must be a number of ticks')
    .positive('must be above 0')
    .max(1e9, 'must be at most 1000000000')
    .register(settingFacts, { unit: 'ticks' })
    .optional(),
  anchor: z.enum(['start', 'bar', 'session'], 'must be "start", "bar" or "session"').default('start'),
  controllers: z.boolean('must be true or false').default(true),
});

export type StretchStep = z.infer<typeof schema>;

/**
 * New place = anchor + factor x (place - anchor); lengths x factor. `toTicks` gives the factor by the length from the
 * anchor to the last end. The anchor is the first touched start, the line of its musical bar, or the start of the
 * session, so that several parts stay in step. A span of no length stays as it is: there is nothing to stretch.
 */
function apply(
  material: Material,
  step: StretchStep,
  { timeline, channel, beside }: StepContext,
  touched: Uint8Array,
): Material {
  const { notes, events } = material;
  const span = spanOf(notes, touched);
  if (!span) return material;
  const anchor = { start: span.from, bar: barLine(notes, touched, timeline), session: 0 }[step.anchor];
  const factor = step.toTicks === undefined ? step.factor : step.toTicks / (span.to - anchor);
  // Notes without length at one place have no length to make another of.
  if (factor === 1 || !Number.isFinite(factor)) return material;
  const place = (tick: number) => anchor + factor * (tick - anchor);
  const start = notes.start.slice();
  const end = notes.end.slice();
  for (let row = 0; row < notes.length; row++) {
    if (touched[row] === 0) continue;
    start[row] = Math.max(0, place(notes.start[row]));
    end[row] = start[row] + Math.max(1, factor * (notes.end[row] - notes.start[row]));
  }
  const stretched = sortedByStart(withColumns(notes, { start, end }));
  if (!step.controllers) return { ...material, notes: stretched };
  return {
    notes: stretched,
    events: movedAlong(events, { notes, touched, where: step.where, timeline, channel, beside, place }),
  };
}

/** The line of the musical bar of the first touched note. */
function barLine(notes: NoteTable, touched: Uint8Array, timeline: Timeline): number {
  const first = touched.indexOf(1);
  const bar = createMusicalBars(timeline)(musicalPlaces(notes.start, timeline)[first]);
  return barNumbered(timeline.meter, bar).start;
}

function describe({ factor, toTicks, anchor }: StretchStep): string {
  const words = toTicks === undefined ? `× ${Number(factor.toFixed(4))}` : `to ${toTicks} ticks`;
  return `${words}${{ start: '', bar: ', from the bar', session: ', from the start of the session' }[anchor]}`;
}

export const isStretch = (step: StepCommon): step is StretchStep => step.kind === 'stretch';

/** Makes notes and their controllers longer or shorter in time, from a place that stays. */
export const stretch: StepKind<StretchStep> = {
  kind: 'stretch',
  title: 'Stretch',
  work: 'time',
  hint: 'Double, halve, or to any length',
  schema,
  // From a bar line a part keeps its place in the bars; several parts keep theirs among each other only from one place.
  start: ({ isForAll, isOneOfSeveral }) => ({
    anchor: !isForAll ? 'start' : isOneOfSeveral ? 'session' : 'bar',
  }),
  mapTicks: (step, { length }) =>
    step.toTicks === undefined ? step : { ...step, toTicks: length(step.toTicks) },
  mapIds: namesNoNotes,
  apply,
  describe,
  measure: () => 'notes',
  movesTime: true,
  readsChannel: ({ where, controllers }) => (controllers && endsAtOthers(where) ? ['notes'] : []),
};
