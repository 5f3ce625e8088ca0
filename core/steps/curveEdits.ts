import { z } from 'zod';
import { pointsOf, readLane, replaceStretch, writeLanes, type LanePoints } from '../curves';
import type { EventColumns } from '../midi';
import { laneSchema, pointSchema } from './curveSettings';
import { laneUnit } from './laneUnit';

const tick = z.number('must be a tick').min(0, 'must be 0 or more').max(1e9, 'must be at most 1000000000');

/**
 * What a hand did to a lane: the points from tick `from` to tick `to`, both included, are these and no others (points beside the stretch are passed
 * over). Values in the lane's unit (0-127, or
 * cents of a bend), `channel` 1-16.
 */
export const curveEditSchema = z.strictObject({
  lane: laneSchema,
  channel: z.int().min(1, 'must be 1 to 16').max(16, 'must be 1 to 16').default(1),
  from: tick,
  to: tick,
  points: z.array(pointSchema).max(1e6),
});

export type CurveEdit = z.infer<typeof curveEditSchema>;

/** The events after some edits of lanes, one after the other. */
export function applyCurveEdits(events: EventColumns, edits: readonly CurveEdit[]): EventColumns {
  // Edits of one lane are taken together, so that a lane is read and written once however often it was drawn in.
  const lanes = new Map<string, CurveEdit[]>();
  for (const edit of edits) {
    const key = `${edit.lane} ${edit.channel}`;
    lanes.set(key, [...(lanes.get(key) ?? []), edit]);
  }
  const changes = [...lanes.values()].map((list) => {
    const [{ lane, channel }] = list;
    const unit = laneUnit(events, lane, channel - 1);
    const raw = readLane(events, lane, channel - 1);
    const points = list.reduce((current: LanePoints, { from, to, points: drawn }) => {
      const fresh = pointsOf(
        drawn
          .filter(({ at }) => at >= from && at <= to)
          .sort((a, b) => a.at - b.at)
          .map(({ at, value }) => ({ tick: at, value: unit.raw(value, at) })),
      );
      return replaceStretch(current, from, to, fresh);
    }, raw);
    return { lane, channel: channel - 1, points };
  });
  return writeLanes(events, changes);
}

/** Earlier and later edits as one list: those that a later one of the same lane covers wholly are gone. */
export function mergeCurveEdits(earlier: readonly CurveEdit[], later: readonly CurveEdit[]): CurveEdit[] {
  const covered = (edit: CurveEdit) =>
    later.some(
      ({ lane, channel, from, to }) =>
        lane === edit.lane && channel === edit.channel && from <= edit.from && to >= edit.to,
    );
  return [...earlier.filter((edit) => !covered(edit)), ...later];
}
