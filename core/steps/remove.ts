import { z } from 'zod';
import { pickRows, type Material, type NoteTable } from '../model';
import { ticksToSeconds, type Timeline } from '../time';
import { range, ranged, whole } from './numberSettings';
import { stepBase } from './settings';
import { namesNoNotes, saysNoTicks, type StepContext, type StepKind } from './stepKind';

const schema = z.strictObject({
  kind: z.literal('remove'),
  ...stepBase,
  shorterThanMs: ranged(0, 60000, { unit: 'ms', usual: [0, 200], start: 30 }).optional(),
  softerThan: ranged(1, 127, { usual: [1, 64], start: 15 }).optional(),
  doublesWithinMs: ranged(0, 60000, { unit: 'ms', usual: [0, 200], start: 60 }).optional(),
  outside: range(whole(0, 127)).optional(),
});

export type RemoveStep = z.infer<typeof schema>;

/**
 * Takes out touched notes that are too short, too soft, outside a range, or doubles: within reach of an earlier one
 * of the same pitch and no louder.
 */
function apply(
  material: Material,
  step: RemoveStep,
  { timeline }: StepContext,
  touched: Uint8Array,
): Material {
  const { notes } = material;
  const gone = new Uint8Array(notes.length);
  const second = (tick: number) => ticksToSeconds(timeline.tempo, tick);
  for (let row = 0; row < notes.length; row++) {
    if (touched[row] === 0) continue;
    const tooShort =
      step.shorterThanMs !== undefined &&
      (second(notes.end[row]) - second(notes.start[row])) * 1000 < step.shorterThanMs - 1e-9;
    const tooSoft = step.softerThan !== undefined && notes.velocity[row] < step.softerThan;
    const out =
      step.outside !== undefined &&
      (notes.pitch[row] < step.outside[0] || notes.pitch[row] > step.outside[1]);
    if (tooShort || tooSoft || out) gone[row] = 1;
  }
  if (step.doublesWithinMs !== undefined)
    markDoubles(gone, notes, touched, step.doublesWithinMs / 1000, timeline);
  const kept: number[] = [];
  for (let row = 0; row < notes.length; row++) if (gone[row] === 0) kept.push(row);
  return kept.length === notes.length ? material : { ...material, notes: pickRows(notes, kept) };
}

/** Of two strokes of one pitch within reach the later goes when it is not louder than the earlier, which stays. */
function markDoubles(
  gone: Uint8Array,
  notes: NoteTable,
  touched: Uint8Array,
  reach: number,
  timeline: Timeline,
) {
  const last = new Int32Array(2048).fill(-1);
  for (let row = 0; row < notes.length; row++) {
    if (gone[row]) continue;
    const key = (notes.channel[row] << 7) | notes.pitch[row];
    const before = last[key];
    const near =
      before >= 0 &&
      ticksToSeconds(timeline.tempo, notes.start[row]) -
        ticksToSeconds(timeline.tempo, notes.start[before]) <=
        reach + 1e-9;
    if (near && touched[row] === 1 && notes.velocity[row] <= notes.velocity[before]) gone[row] = 1;
    else last[key] = row;
  }
}

function describe(step: RemoveStep): string {
  const words = [
    ...(step.shorterThanMs !== undefined ? [`under ${step.shorterThanMs} ms`] : []),
    ...(step.softerThan !== undefined ? [`softer than ${step.softerThan}`] : []),
    ...(step.doublesWithinMs !== undefined ? [`doubles within ${step.doublesWithinMs} ms`] : []),
    ...(step.outside ? [`outside ${step.outside[0]} to ${step.outside[1]}`] : []),
  ];
  return words.join(', ') || 'nothing yet';
}

/** A pitched note shorter than this was touched by mistake; strokes of drums may be as short. */
const TOUCHED_MS = 25;

/** Takes out what was not meant: specks, ghost touches, double strikes. */
export const remove: StepKind<RemoveStep> = {
  kind: 'remove',
  title: 'Remove',
  work: 'tidy',
  hint: 'Take out specks, doubles and stray notes',
  schema,
  start: ({ facts, isDrums }) => ({
    doublesWithinMs: 40,
    ...(!isDrums && facts.shortestMs < TOUCHED_MS ? { shorterThanMs: TOUCHED_MS } : {}),
  }),
  mapTicks: saysNoTicks,
  mapIds: namesNoNotes,
  apply,
  describe,
  measure: () => 'removed',
};
