import { z } from 'zod';

/** The clefs a part may be written with; that of drums is theirs alone. */
export const CLEFS = ['treble', 'bass', 'alto', 'tenor', 'treble-8', 'percussion'] as const;
export type Clef = (typeof CLEFS)[number];

/** Shortest values there may be, in parts of a whole note. */
const FINEST_VALUES = z.union([z.literal(4), z.literal(8), z.literal(16), z.literal(32), z.literal(64)]);

/**
 * How a part is written down, as a part of a session may say it; none of it changes the part. What is not said is as in
 * `core/notation/options.ts`.
 */
export const notationSchema = z.strictObject({
  /** On one staff or two; null: two where the notes reach over what one staff holds. */
  staves: z
    .union([z.literal(1), z.literal(2)])
    .nullable()
    .optional(),
  /** Pitches from here up are the right hand's, on two staves; null: as hands play. */
  handLine: z.int().min(1).max(127).nullable().optional(),
  /** The clef of a part on one staff; null: by its pitches. */
  clef: z.enum(CLEFS).nullable().optional(),
  /** Semitones from what is written to what sounds: -2 for an instrument in B flat. */
  transposition: z.int().min(-36).max(36).optional(),
  /** The shortest plain value, in parts of a whole note: 16 for 1/16. */
  finest: FINEST_VALUES.optional(),
  /** Played swing is written in plain values, with a word for it; else as triplets. */
  straightSwing: z.boolean().optional(),
  chordNames: z.boolean().optional(),
  /** Bars with a shortest value of their own; of several for one bar the last. */
  finestIn: z
    .array(z.strictObject({ bar: z.int().min(1), finest: FINEST_VALUES }))
    .max(20_000)
    .optional(),
  /** Notes that are written with the other hand than they are taken to be played by, by id: 0 upper, 1 lower staff. */
  staffOf: z.record(z.string().regex(/^\d+$/), z.union([z.literal(0), z.literal(1)])).optional(),
});

/** What a part says of how it is written. */
export type NotationSettings = z.infer<typeof notationSchema>;
