import { z } from 'zod';
import {
  chainPoints,
  filterPoints,
  joinPoints,
  pickPoints,
  pointsOf,
  readLane,
  writeLanes,
  type LanePoints,
} from '../curves';
import type { EventColumns } from '../midi';
import { laneSchema, pointSchema } from './curveSettings';
import { firstAtOrAfter, lastAtOrBefore } from '../time';
import { laneUnit, type LaneUnit } from './laneUnit';

const tick = z.number('must be a tick').min(0, 'must be 0 or more').max(1e9, 'must be at most 1000000000');

/** A line a hand drew: its ends, and the place it is bent through half-way; straight where that lies between them. */
const drawnLineSchema = z.strictObject({ from: pointSchema, to: pointSchema, through: pointSchema });

export type DrawnLine = z.infer<typeof drawnLineSchema>;

/**
 * What a hand did to a lane: the points from tick `from` to tick `to`, both included, are these and no others (points
 * beside the stretch are passed over). Values in the lane's unit (0-127, or cents of a bend), `channel` 1-16. `line`
 * says what they were made of, so that it can be shaped further; it changes nothing of what sounds.
 */
export const curveEditSchema = z.strictObject({
  lane: laneSchema,
  channel: z.int().min(1, 'must be 1 to 16').max(16, 'must be 1 to 16').default(1),
  from: tick,
  to: tick,
  points: z.array(pointSchema).max(1e6),
  line: drawnLineSchema.optional(),
});

export type CurveEdit = z.infer<typeof curveEditSchema>;

/**
 * The lines of a lane that can be shaped further: those that no later edit went into. A later one may stand right
 * beside it, with the point that leads back to what was there.
 */
export function drawnLines(edits: readonly CurveEdit[], lane: string, channel: number): DrawnLine[] {
  const own = edits.filter((edit) => edit.lane === lane && edit.channel === channel);
  return own.flatMap(({ line }, at) => {
    if (!line || line.from.at >= line.to.at) return [];
    const later = own.slice(at + 1);
    return later.some(({ from, to }) => from < line.to.at - 1 && to > line.from.at + 1) ? [] : [line];
  });
}

/** The events after some edits of lanes, one after the other. */
export function applyCurveEdits(events: EventColumns, edits: readonly CurveEdit[]): EventColumns {
  // Edits of one lane are taken together, so that a lane is read and written once however often it was drawn in.
  const lanes = new Map<string, CurveEdit[]>();
  for (const edit of edits) {
    const key = `${edit.lane} ${edit.channel}`;
    const list = lanes.get(key);
    if (list) list.push(edit);
    else lanes.set(key, [edit]);
  }
  const changes = [...lanes.values()].map((list) => {
    const [{ lane, channel }] = list;
    const unit = laneUnit(events, lane, channel - 1);
    const raw = readLane(events, lane, channel - 1);
    return { lane, channel: channel - 1, points: laid(raw, list, unit) };
  });
  return writeLanes(events, changes);
}

/** The points of a lane with edits laid over it: at every tick what the last edit that covers it says. */
function laid(raw: LanePoints, edits: readonly CurveEdit[], unit: LaneUnit): LanePoints {
  const cover = createCover();
  const pieces: LanePoints[] = [];
  for (let index = edits.length - 1; index >= 0; index--) {
    const { from, to, points } = edits[index];
    pieces.push(
      pointsOf(
        points
          .filter(({ at }) => at >= from && at <= to && !cover.has(at))
          .sort((a, b) => a.at - b.at)
          .map(({ at, value }) => ({ tick: at, value: unit.raw(value, at) })),
      ),
    );
    if (from <= to) cover.add(from, to);
  }
  const left = filterPoints(raw, (tick) => !cover.has(tick));
  const drawn = chainPoints(pieces);
  // Each tick belongs to one edit, so that a stable sort keeps the order in which it has points there.
  const order = Array.from(drawn.tick.keys()).sort((a, b) => drawn.tick[a] - drawn.tick[b] || a - b);
  return joinPoints(left, pickPoints(drawn, order));
}

/** Stretches of ticks, both ends included, that grow together where they meet. */
function createCover() {
  const starts: number[] = [];
  const ends: number[] = [];
  const isIn = (tick: number, at: number) => at < starts.length && starts[at] <= tick && ends[at] >= tick;
  return {
    has(tick: number): boolean {
      return isIn(tick, lastAtOrBefore(starts, tick));
    },
    add(from: number, to: number) {
      const first = firstAtOrAfter(ends, from);
      let stop = first;
      let [low, high] = [from, to];
      for (; stop < starts.length && starts[stop] <= to; stop++) {
        low = Math.min(low, starts[stop]);
        high = Math.max(high, ends[stop]);
      }
      starts.splice(first, stop - first, low);
      ends.splice(first, stop - first, high);
    },
  };
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
