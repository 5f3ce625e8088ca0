import { z } from 'zod';

/** What the migration reads of a document of version 1; everything else goes along as it is. */
const segment = z.looseObject({
  take: z.string(),
  channel: z.int().min(1).max(16).nullable(),
  from: z.number(),
  to: z.number().nullable(),
  at: z.number(),
  rest: z.enum(['all', 'untimed', 'none']),
});
const step = z.looseObject({ kind: z.string() });
const placedStep = z.looseObject({ id: z.string(), step });
const made = { layers: z.array(z.array(segment)), steps: z.array(placedStep) };

const documentSchema = z.looseObject({
  version: z.literal(1),
  takes: z.array(
    z.looseObject({
      key: z.string(),
      name: z.string(),
      firstNoteId: z.int().min(0),
      noteCount: z.int().min(0),
    }),
  ),
  parts: z.array(
    z.looseObject({ id: z.string(), ...made, folded: z.array(z.looseObject(made)).default([]) }),
  ),
  nextNoteId: z.int().min(0),
});

export type Document1 = z.infer<typeof documentSchema>;
export type Segment1 = z.infer<typeof segment>;
export type PlacedStep1 = z.infer<typeof placedStep>;

/** A document of version 1. Throws a ZodError where it is none. */
export function readDocument1(stored: unknown): Document1 {
  return documentSchema.parse(stored);
}
