import { z } from 'zod';

/** Bars a written score may have. */
const MOST_BARS = 20_000;

/** Whether bars are meant that there are, by index. */
const areThere = (bars: readonly number[], indexes: readonly number[]) =>
  indexes.every((bar) => bar < bars.length - 1);

/**
 * The written score that is laid beside a part. What is written is kept like a take, by the key of its content: each
 * note once, to the tick, repeats not taken. Parts with the same score are one performance and followed together.
 */
const shape = z.strictObject({
  score: z.string().min(1).max(500),
  name: z.string().max(200),
  /** Where bars of the score start, in quarters, and behind the last where it ends. */
  bars: z
    .array(z.number().min(0))
    .min(2)
    .max(MOST_BARS + 1)
    .refine((bars) => bars.every((at, index) => index === 0 || at >= bars[index - 1]), {
      message: 'must rise',
    }),
  /** What its first bar is called: 0 for a pick-up. */
  firstBar: z.union([z.literal(0), z.literal(1)]),
  /** Bars by index in the order its repeats say, where that is not from first to last. */
  order: z.array(z.int().min(0)).max(MOST_BARS).optional(),
  /**
   * The quarter of the session on which the first bar that is played begins; without it where it was played to the
   * click, or else where it has the same number.
   */
  beginsAt: z.number().min(0).max(1e6).optional(),
  /** What a person said: with what was played at a tick begins bar so-and-so (by index). Rises. */
  said: z
    .array(z.strictObject({ at: z.number().min(0), bar: z.int().min(0) }))
    .max(10_000)
    .optional(),
});

export const referenceSchema = shape.refine(
  ({ bars, order = [], said = [] }) => areThere(bars, [...order, ...said.map(({ bar }) => bar)]),
  { message: 'names a bar that is not there', path: ['order'] },
);

/** The written score a part is followed along. */
export type Reference = z.infer<typeof referenceSchema>;
