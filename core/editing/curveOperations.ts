import type { LanePoints } from '../curves';
import { greatestOf, leastOf } from '../model';
import { createGrid, firstAtOrAfter, nearestLine, type NoteValue, type Timeline } from '../time';
import type { CurveEdit } from '../steps';

/** A lane of a part as a hand sees it: its points in the lane's own unit. */
export interface LaneHand {
  lane: string;
  /** 1-16. */
  channel: number;
  points: LanePoints;
  low: number;
  high: number;
  /** What the lane holds before anything is sent. */
  resting: number;
}

/** A place in a lane. */
export interface LanePlace {
  at: number;
  value: number;
}

/** A value held to what the lane can hold. */
/** A value held to what the lane can hold. */
export const heldIn = ({ low, high }: LaneHand, value: number) => Math.min(high, Math.max(low, value));

/** An edit of a stretch of a lane, its points in order and held to what the lane can hold. */
export function editOf(hand: LaneHand, from: number, to: number, places: readonly LanePlace[]): CurveEdit {
  const points = places
    .map(({ at, value }) => ({ at: Math.max(0, at), value: heldIn(hand, value) }))
    .sort((a, b) => a.at - b.at);
  return { lane: hand.lane, channel: hand.channel, from: Math.max(0, from), to: Math.max(0, to), points };
}

/**
 * An edit that lays places down from the first to `to`, and after it, at `after`, what held there before, or the
 * lane's rest where it had held nothing; not where a point of it stands there. Outside the stretch everything sounds
 * as it did. A single place is a point that holds on.
 */
export function laidWithSeam(
  hand: LaneHand,
  from: number,
  to: number,
  places: readonly LanePlace[],
  after: number = to + 1,
): CurveEdit {
  const last = places.reduce((latest, place) => (place.at >= latest.at ? place : latest));
  const { tick, value } = hand.points;
  const row = firstAtOrAfter(tick, after + 1e-9) - 1;
  const leaving = row < 0 ? hand.resting : value[row];
  const isSeam = to > from && tick[row] !== after && leaving !== last.value;
  return isSeam
    ? editOf(hand, from, after, [...places, { at: after, value: leaving }])
    : editOf(hand, from, to, places);
}

/** A curve drawn freely: where the hand went back over itself, what it drew last counts. */
export function drawFreely(hand: LaneHand, path: readonly LanePlace[]): CurveEdit {
  const kept: LanePlace[] = [];
  for (const place of path) {
    const last = kept.at(-1);
    if (!last || place.at > last.at) kept.push(place);
    else {
      while (kept.length > 0 && kept[kept.length - 1].at >= place.at) kept.pop();
      kept.push(place);
    }
  }
  const at = (place: LanePlace) => place.at;
  return laidWithSeam(hand, leastOf(path, at), greatestOf(path, at), kept);
}

/**
 * A drawn path as steps: one value for each stretch between two lines of a grid, what the hand was at last within it.
 */
export function drawSteps(
  hand: LaneHand,
  path: readonly LanePlace[],
  grid: readonly NoteValue[],
  timeline: Timeline,
): CurveEdit {
  const lines = createGrid(timeline.meter, grid);
  const step = Math.min(...lines.steps);
  const place = { line: 0, step };
  const values = new Map<number, number>();
  for (const { at, value } of path)
    values.set(Math.max(0, nearestLine(lines, Math.max(0, at - step / 2), place).line), value);
  const places = [...values].map(([at, value]) => ({ at, value }));
  const last = greatestOf(places, ({ at }) => at);
  const first = leastOf(places, ({ at }) => at);
  return laidWithSeam(hand, first, last + step - 1, places);
}
