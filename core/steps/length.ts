import { z } from 'zod';
import type { EventColumns } from '../midi';
import { pickRows, withColumns, type Material, type NoteTable } from '../model';
import { nameOfNoteValue, quartersOf, type Timeline } from '../time';
import { pedalledEnds } from '../curves';
import { channelEvents, eventsOf } from './channelEvents';
import { forEachChord } from './chords';
import { range, ranged } from './numberSettings';
import { noteValueSchema, stepBase } from './settings';
import { namesNoNotes, type StepContext, type StepKind } from './stepKind';

const schema = z.strictObject({
  kind: z.literal('length'),
  ...stepBase,
  set: noteValueSchema.optional(),
  scale: ranged(1, 1000, { unit: '%', usual: [5, 200], start: 100 }).optional(),
  legato: z
    .strictObject({ gapTicks: ranged(0, 1e9, { unit: 'ticks', usual: [0, 480], start: 0 }).default(0) })
    .optional(),
  limit: range(ranged(0, 1e9, { unit: 'ticks' })).optional(),
  noOverlap: z.boolean('must be true or false').default(true),
  /** No note lasts into the next of its channel, whatever the pitch; notes of one chord are left. */
  monophonic: z.boolean('must be true or false').optional(),
  hold: z.literal('fromPedal', 'must be "fromPedal"').optional(),
});

export type LengthStep = z.infer<typeof schema>;

/**
 * In this order, each where given: set, or scale by percent; legato to the next chord; limit; hold to the pedal's
 * release; and same pitches do not overlap (the earlier is cut), or no notes at all. No note gets shorter than a
 * tick.
 */
function apply(
  material: Material,
  step: LengthStep,
  { timeline, beside }: StepContext,
  touched: Uint8Array,
): Material {
  const { notes } = material;
  if (notes.length === 0) return material;
  const end = notes.end.slice();
  const fixed = step.set === undefined ? null : quartersOf(step.set) * timeline.ticksPerQuarter;
  for (let row = 0; row < notes.length; row++) {
    if (touched[row] === 0) continue;
    const length = end[row] - notes.start[row];
    if (fixed !== null) end[row] = notes.start[row] + fixed;
    else if (step.scale !== undefined) end[row] = notes.start[row] + (length * step.scale) / 100;
  }
  if (step.legato) reachNext(end, notes, touched, step.legato.gapTicks, timeline);
  for (let row = 0; row < notes.length; row++) {
    if (touched[row] === 0) continue;
    let length = end[row] - notes.start[row];
    if (step.limit) length = Math.min(step.limit[1], Math.max(step.limit[0], length));
    end[row] = notes.start[row] + Math.max(1, length);
  }
  if (step.hold) holdByPedal(end, notes, channelEvents(material.events, eventsOf(beside)), touched);
  if (step.noOverlap) cutOverlaps(end, notes, touched);
  if (step.monophonic) cutAtNextChord(end, notes, touched, timeline);
  return end.every((tick, row) => tick === notes.end[row])
    ? material
    : { ...material, notes: withColumns(notes, { end }) };
}

/**
 * Every touched note lasts until the next chord of touched notes begins, less a gap; those of the last chord keep
 * their lengths. The notes of one chord never cut each other, rolled as they may be.
 */
function reachNext(
  end: Float64Array,
  notes: NoteTable,
  touched: Uint8Array,
  gap: number,
  timeline: Timeline,
) {
  const rows = Uint32Array.from(notes.id.keys()).filter((row) => touched[row] === 1);
  let before: Uint32Array | null = null;
  forEachChord(pickRows(notes, rows), timeline, (first, stop) => {
    const next = notes.start[rows[first]];
    for (const row of before ?? []) end[row] = Math.max(notes.start[row] + 1, next - gap);
    before = rows.subarray(first, stop);
  });
}

/**
 * A touched note ends where the next of its pitch and channel starts, if it would last beyond. Notes at one start are
 * left.
 */
function cutOverlaps(end: Float64Array, notes: NoteTable, touched: Uint8Array) {
  const nextStart = new Float64Array(2048).fill(Infinity);
  const laterStart = new Float64Array(2048).fill(Infinity);
  for (let row = notes.length - 1; row >= 0; row--) {
    const key = (notes.channel[row] << 7) | notes.pitch[row];
    const start = notes.start[row];
    const next = nextStart[key] > start ? nextStart[key] : laterStart[key];
    if (touched[row] !== 0 && end[row] > next) end[row] = Math.max(start + 1, next);
    if (nextStart[key] > start) {
      laterStart[key] = nextStart[key];
      nextStart[key] = start;
    }
  }
}

/**
 * A touched note ends where the next chord of its channel begins, if it would last beyond; a chord is what starts
 * within 30 ms.
 */
function cutAtNextChord(end: Float64Array, notes: NoteTable, touched: Uint8Array, timeline: Timeline) {
  for (const channel of new Set(notes.channel)) {
    const rows = Uint32Array.from(notes.id.keys()).filter((row) => notes.channel[row] === channel);
    let before: Uint32Array | null = null;
    forEachChord(pickRows(notes, rows), timeline, (first, stop) => {
      const next = notes.start[rows[first]];
      for (const row of before ?? [])
        if (touched[row] === 1 && end[row] > next) end[row] = Math.max(notes.start[row] + 1, next);
      before = rows.subarray(first, stop);
    });
  }
}

/**
 * Notes released while the pedal is down last until it comes up; also by presses of another part that are taken out
 * there, since that is what one does after.
 */
function holdByPedal(end: Float64Array, notes: NoteTable, events: EventColumns, touched: Uint8Array) {
  const rings = pedalledEnds(notes, end, events);
  for (let row = 0; row < notes.length; row++)
    if (touched[row] === 1 && rings[row] > end[row]) end[row] = rings[row];
}

function describe(step: LengthStep): string {
  const words = [
    ...(step.hold ? ['held by the pedal'] : []),
    ...(step.set !== undefined ? [nameOfNoteValue(step.set)] : []),
    ...(step.set === undefined && step.scale !== undefined ? [`${step.scale} %`] : []),
    ...(step.legato ? ['legato'] : []),
    ...(step.limit ? [`${step.limit[0]} to ${step.limit[1]} ticks`] : []),
    ...(step.monophonic ? ['one note at a time'] : step.noOverlap ? ['no overlaps'] : []),
  ];
  return words.join(', ') || 'nothing yet';
}

/** Sets, scales, joins or limits lengths. */
export const length: StepKind<LengthStep> = {
  kind: 'length',
  title: 'Length',
  work: 'length',
  hint: 'Scale, legato, limits, no overlaps',
  schema,
  mapTicks: (step, { length }) => ({
    ...step,
    ...(step.limit && { limit: [length(step.limit[0]), length(step.limit[1])] as [number, number] }),
    ...(step.legato && { legato: { ...step.legato, gapTicks: length(step.legato.gapTicks) } }),
  }),
  mapIds: namesNoNotes,
  apply,
  describe,
  measure: () => 'length',
  readsChannel: ({ hold }) => (hold === undefined ? [] : ['presses']),
  values: () => 'ms',
};
