import { z } from 'zod';
import { LANE_PATTERN } from '../curves';

const controller = z.int().min(0).max(119);
const velocity = z.int().min(1).max(127);

/**
 * What becomes of what arrives at a part. `source` is the id of an input and `channel` 1-16, null for any; notes from
 * `lowest` to `highest` come through, `transpose` semitones higher; `velocity` are the corners of a curve from struck
 * to written, both 1-127, the first rising and the second never falling; `controllers` become others; `leaveOut` are
 * lanes that are ignored.
 */
export const inputMapSchema = z.strictObject({
  source: z.string().max(500).nullable(),
  channel: z.int().min(1).max(16).nullable(),
  transpose: z.int().min(-60).max(60),
  lowest: z.int().min(0).max(127),
  highest: z.int().min(0).max(127),
  velocity: z
    .array(z.tuple([velocity, velocity]))
    .min(2)
    .max(16)
    .refine(
      (points) => points.every(([x, y], at) => at === 0 || (x > points[at - 1][0] && y >= points[at - 1][1])),
      {
        message: 'must rise from left to right and never fall',
      },
    ),
  controllers: z.array(z.strictObject({ from: controller, to: controller })).max(120),
  leaveOut: z.array(z.string().regex(LANE_PATTERN)).max(260),
});

export type InputMap = z.infer<typeof inputMapSchema>;

/** Everything comes through as it is. */
export const PLAIN_INPUT_MAP: InputMap = {
  source: null,
  channel: null,
  transpose: 0,
  lowest: 0,
  highest: 127,
  velocity: [
    [1, 1],
    [127, 127],
  ],
  controllers: [],
  leaveOut: [],
};
