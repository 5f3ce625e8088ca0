import { z } from 'zod';
import { withColumns, type Material } from '../model';
import { createMusicalBars, musicalPlaces } from '../time';
import { withKeyPressure } from './keyPressure';
import { semitonesAt } from './sections';
import { whole } from './numberSettings';
import { barsAt } from './placing';
import { stepBase } from './settings';
import { namesNoNotes, type StepContext, type StepKind, type StepCommon } from './stepKind';

const semitones = whole(-127, 127, { usual: [-24, 24] });
const KEY_PATTERN = /^([A-G])([#b]?) (major|minor)$/;

const schema = z
  .strictObject({
    kind: z.literal('transpose'),
    ...stepBase,
    semitones: semitones.default(0),
    degrees: whole(-70, 70, { start: 2 }).optional(),
    key: z.string().regex(KEY_PATTERN, 'must be a key like "C major" or "F# minor"').optional(),
    into: z
      .tuple([whole(0, 127), whole(0, 127)])
      .refine(([low, high]) => high - low >= 11, { message: 'must span at least an octave' })
      .optional(),
    skipDrums: z.boolean('must be true or false').default(true),
    sections: z
      .array(
        z.strictObject({
          bars: z
            .tuple([z.int().min(1), z.int().min(1)])
            .refine(([from, to]) => from < to, { message: 'the second bar must come after the first' }),
          semitones,
        }),
      )
      .default([]),
  })
  .refine((step) => step.degrees === undefined || step.key !== undefined, {
    message: 'degrees need a key',
    path: ['key'],
  });

export type TransposeStep = z.infer<typeof schema>;

const LETTERS: Record<string, number> = { C: 0, D: 2, E: 4, F: 5, G: 7, A: 9, B: 11 };
const SCALES = { major: [0, 2, 4, 5, 7, 9, 11], minor: [0, 2, 3, 5, 7, 8, 10] };

/** Tonic (0-11) and scale of a key by name; null when it is none. */
export function keyOf(name: string): { tonic: number; scale: number[] } | null {
  const match = KEY_PATTERN.exec(name);
  if (!match) return null;
  const accidental = match[2] === '#' ? 1 : match[2] === 'b' ? 11 : 0;
  return { tonic: (LETTERS[match[1]] + accidental) % 12, scale: SCALES[match[3] as 'major' | 'minor'] };
}

/**
 * Moves a pitch by degrees of a scale. A pitch outside the scale keeps its distance in semitones to the scale note
 * below it, so that a passing note stays one. May leave 0-127.
 */
export function moveByDegrees(
  pitch: number,
  degrees: number,
  { tonic, scale }: { tonic: number; scale: number[] },
): number {
  const above = pitch - tonic;
  const octave = Math.floor(above / 12);
  const within = above - octave * 12;
  let degree = scale.length - 1;
  while (scale[degree] > within) degree--;
  const moved = octave * scale.length + degree + degrees;
  const target =
    Math.floor(moved / scale.length) * 12 + scale[((moved % scale.length) + scale.length) % scale.length];
  return tonic + target + (within - scale[degree]);
}

/** A pitch brought between two others by whole octaves; the nearest octave is taken. */
export function foldInto(pitch: number, low: number, high: number): number {
  if (pitch < low) return pitch + Math.ceil((low - pitch) / 12) * 12;
  if (pitch > high) return pitch - Math.ceil((pitch - high) / 12) * 12;
  return pitch;
}

function apply(
  material: Material,
  step: TransposeStep,
  { timeline, isDrums }: StepContext,
  touched: Uint8Array,
): Material {
  if (step.skipDrums && isDrums) return material;
  const { notes } = material;
  const key = step.degrees !== undefined && step.key ? keyOf(step.key) : null;
  const pitch = notes.pitch.slice();
  let changed = false;
  const barOf = createMusicalBars(timeline);
  const places = step.sections.length > 0 ? musicalPlaces(notes.start, timeline) : notes.start;
  let [bar, moved] = [NaN, 0];
  for (let row = 0; row < notes.length; row++) {
    if (touched[row] === 0) continue;
    let target = pitch[row] + step.semitones;
    if (key && step.degrees !== undefined) target = moveByDegrees(target, step.degrees, key);
    if (step.sections.length > 0) {
      // Notes come in order of time, so that each bar is looked up once.
      const number = barOf(places[row]);
      if (number !== bar) {
        bar = number;
        moved = semitonesAt(step.sections, bar);
      }
      target += moved;
    }
    target = foldInto(target, 0, 127);
    if (step.into) target = foldInto(target, step.into[0], step.into[1]);
    changed ||= target !== pitch[row];
    pitch[row] = target;
  }
  if (!changed) return material;
  return {
    notes: withColumns(notes, { pitch }),
    events: withKeyPressure(material.events, notes, () => ({ pitch })),
  };
}

const INTERVALS = [
  'unison',
  'minor second',
  'second',
  'minor third',
  'third',
  'fourth',
  'tritone',
  'fifth',
  'minor sixth',
  'sixth',
  'minor seventh',
  'seventh',
];

/** An interval in words: octaves and the rest by name. */
export function intervalInWords(semitones: number): string {
  const size = Math.abs(semitones);
  const octaves = Math.floor(size / 12);
  const rest = size % 12;
  const words = [
    ...(octaves > 0 ? [octaves === 1 ? 'octave' : `${octaves} octaves`] : []),
    ...(rest > 0 || octaves === 0 ? [INTERVALS[rest]] : []),
  ];
  return `${words.join(' and ')}${semitones > 0 ? ' up' : semitones < 0 ? ' down' : ''}`;
}

function describe(step: TransposeStep): string {
  const words = [
    ...(step.semitones !== 0 ? [intervalInWords(step.semitones)] : []),
    ...(step.degrees
      ? [`${step.degrees > 0 ? '+' : '−'}${Math.abs(step.degrees)} degrees in ${step.key}`]
      : []),
    ...(step.sections.length > 0
      ? [step.sections.length === 1 ? '1 section' : `${step.sections.length} sections`]
      : []),
    ...(step.into ? ['folded'] : []),
  ];
  return words.join(', ') || 'nowhere yet';
}

export const isTranspose = (step: StepCommon): step is TransposeStep => step.kind === 'transpose';

/** Moves pitches by semitones, by degrees of a key, or bars by different amounts. */
export const transpose: StepKind<TransposeStep> = {
  kind: 'transpose',
  title: 'Transpose',
  work: 'pitch',
  hint: 'By semitones, by degrees of a key, into a range',
  schema,
  mapTicks: (step, placing) => ({
    ...step,
    sections: step.sections.flatMap((section) => {
      const bars = barsAt(placing, section.bars);
      return bars ? [{ ...section, bars }] : [];
    }),
  }),
  mapIds: namesNoNotes,
  apply,
  describe,
  measure: () => 'pitches',
};
