import { z } from 'zod';
import { NOTE_VALUE_PATTERN } from '../time';
import { whereSchema } from './where';

const plainNoteValue = z
  .string('must be a note value like "1/16"')
  .regex(NOTE_VALUE_PATTERN, 'must be a note value: 1/1 to 1/128, with T for triplet or D for dotted');

/** A note value or a tuplet. */
export const noteValueSchema = z.union(
  [
    plainNoteValue,
    z.strictObject({
      count: z.int().min(2, 'must be 2 to 64').max(64, 'must be 2 to 64'),
      in: plainNoteValue,
    }),
  ],
  'must be a note value like "1/16", "1/8T" or {"count": 5, "in": "1/4"}',
);

/** The keys every kind of step has. */
export const stepBase = {
  on: z.boolean('must be true or false').default(true),
  where: whereSchema.default({}),
};

/** The keys of a kind that always touches the whole part. */
export const partWide = {
  on: stepBase.on,
  // Typed as any other where, so that steps can be spoken of alike; nothing but {} passes.
  where: z.strictObject({}, 'touches the whole part').default({}) as unknown as typeof stepBase.where,
};
