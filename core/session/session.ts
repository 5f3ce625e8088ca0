import { z } from 'zod';
import { stepSchema } from '../steps';

/** Version of the session document; raised with every change of shape, and older ones are migrated forward. */
export const SESSION_VERSION = 1;

const tick = z.number().min(0).max(Number.MAX_SAFE_INTEGER);

export const divisionSchema = z.discriminatedUnion('kind', [
  z.strictObject({ kind: z.literal('metrical'), ticksPerQuarter: z.int().min(1).max(0x7fff) }),
  z.strictObject({
    kind: z.literal('smpte'),
    framesPerSecond: z.int().min(1).max(128),
    ticksPerFrame: z.int().min(1).max(255),
  }),
]);

/** A take as the session knows it: its notes have the ids `firstNoteId` to `firstNoteId + noteCount - 1`. */
export const takeReferenceSchema = z.strictObject({
  key: z.string(),
  name: z.string(),
  firstNoteId: z.int().min(0),
  noteCount: z.int().min(0),
});

/**
 * A stretch of a take laid into a part: the events from tick `from` up to `to` (null: its end) of the take, in the session's
 * ticks, placed so that `from` falls on `at`. `channel` (1-16) takes only that channel; `rest` says which of the
 * events that belong to no channel come along.
 */
export const segmentSchema = z.strictObject({
  take: z.string(),
  channel: z.int().min(1).max(16).nullable(),
  from: tick,
  to: tick.nullable(),
  at: tick,
  rest: z.enum(['all', 'untimed', 'none']),
});

export const placedStepSchema = z.strictObject({ id: z.string(), step: stepSchema });

export const partSchema = z.strictObject({
  id: z.string(),
  name: z.string().max(200),
  ink: z.int().min(0).max(7),
  channel: z.int().min(1).max(16),
  /** `chosen`: picked by a person, so the takes' own program changes give way. */
  sound: z.strictObject({
    program: z.int().min(0).max(127),
    drums: z.boolean(),
    chosen: z.boolean().default(false),
  }),
  /** Whether a person chose `channel`; then everything of the part is written on it. */
  rechannel: z.boolean().default(false),
  lockedTo: z.enum(['beats', 'seconds']).default('beats'),
  layers: z.array(z.array(segmentSchema)),
  steps: z.array(placedStepSchema),
  /** Steps that were made permanent, oldest first: the take they became, and what the part was made of before. */
  folded: z
    .array(
      z.strictObject({
        at: z.number(),
        take: z.string(),
        layers: z.array(z.array(segmentSchema)),
        steps: z.array(placedStepSchema),
      }),
    )
    .default([]),
  muted: z.boolean(),
  soloed: z.boolean(),
});

export const sessionSchema = z.strictObject({
  ordle: z.literal('session'),
  version: z.literal(SESSION_VERSION),
  id: z.string(),
  name: z.string().max(200),
  createdAt: z.number(),
  division: divisionSchema,
  sourceFormat: z.union([z.literal(0), z.literal(1), z.literal(2)]),
  tempos: z.array(z.strictObject({ tick, microsecondsPerQuarter: z.int().min(1).max(0xffffff) })),
  meters: z.array(
    z.strictObject({ tick, numerator: z.int().min(1).max(255), denominator: z.int().min(1).max(1024) }),
  ),
  takes: z.array(takeReferenceSchema),
  conductor: z.strictObject({ take: z.string(), events: z.enum(['all', 'timed']) }).nullable(),
  parts: z.array(partSchema),
  nextNoteId: z.int().min(0),
});

export type Session = z.infer<typeof sessionSchema>;
export type Part = z.infer<typeof partSchema>;
export type Segment = z.infer<typeof segmentSchema>;
export type PlacedStep = z.infer<typeof placedStepSchema>;
export type TakeReference = z.infer<typeof takeReferenceSchema>;
