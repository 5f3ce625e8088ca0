import { z } from 'zod';
import { pointsOf, type LanePoints } from '../curves';
import { laneSchema } from '../steps';
import type { LaneHand } from './curveOperations';
import { readClipboard } from './readClipboard';

/**
 * Points of a lane as text for the clipboard: times in quarter notes from the first, values in shares of the lane, 0
 * (least) to 1 (greatest); those of a bend also in cents, which are the same whatever a part's bend range is.
 */
const clipboardSchema = z.strictObject({
  ordle: z.literal('points'),
  version: z.literal(1),
  lane: laneSchema,
  points: z
    .array(
      z.strictObject({
        at: z.number().min(0),
        share: z.number().min(0).max(1),
        cents: z.number().optional(),
      }),
    )
    .min(1)
    .max(1_000_000),
});

export function pointsToText(hand: LaneHand, points: LanePoints, ticksPerQuarter: number): string {
  const content: z.infer<typeof clipboardSchema> = {
    ordle: 'points',
    version: 1,
    lane: hand.lane,
    points: Array.from(points.tick, (tick, row) => ({
      at: (tick - points.tick[0]) / ticksPerQuarter,
      share: Math.min(1, Math.max(0, (points.value[row] - hand.low) / (hand.high - hand.low))),
      ...(hand.lane === 'bend' && { cents: points.value[row] }),
    })),
  };
  return JSON.stringify(content);
}

/**
 * Points from clipboard text, the first at tick 0, in the unit of the lane they are for: a curve fits any lane,
 * whatever it was copied from; a bend keeps its cents in a bend, as far as its range reaches, and `held` counts the
 * points it does not reach. Throws `clipboard` when the text holds none.
 */
export function pointsFromText(
  text: string,
  hand: LaneHand,
  ticksPerQuarter: number,
): { points: LanePoints; held: number } {
  const { points: copied } = readClipboard(
    clipboardSchema,
    text,
    'There are no points on the clipboard. Choose some in a lane and copy them first.',
  );
  const inUnit = (share: number) => hand.low + share * (hand.high - hand.low);
  // A share is told in more digits than a value: what came from a whole value is one again.
  const exact = (share: number) => Math.round(inUnit(share) * 1e6) / 1e6;
  const inReach = (cents: number) => Math.min(hand.high, Math.max(hand.low, cents));
  const isBeyond = (cents?: number) =>
    hand.lane === 'bend' && cents !== undefined && Math.abs(inReach(cents) - cents) > 0.5;
  const points = pointsOf(
    copied
      .sort((a, b) => a.at - b.at)
      .map(({ at, share, cents }) => ({
        tick: at * ticksPerQuarter,
        value: hand.lane === 'bend' && cents !== undefined ? inReach(cents) : exact(share),
      })),
  );
  return { points, held: copied.filter(({ cents }) => isBeyond(cents)).length };
}
