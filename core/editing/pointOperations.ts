import { pickPoints, type LanePoints } from '../curves';
import type { CurveEdit } from '../steps';
import { barAt, firstAtOrAfter, type Timeline } from '../time';
import { editOf, laidWithSeam, type LaneHand, type LanePlace } from './curveOperations';
import type { TypedValue } from './operations';

/** First and last tick of some rows of a lane. */
export function hullOf({ points }: Pick<LaneHand, 'points'>, rows: Iterable<number>): [number, number] {
  let [from, to] = [Infinity, -Infinity];
  for (const row of rows) {
    from = Math.min(from, points.tick[row]);
    to = Math.max(to, points.tick[row]);
  }
  return [from, to];
}

/**
 * Puts selected points elsewhere. What lay among them without being selected stays; what they come to lie over goes.
 */
function placePoints(
  hand: LaneHand,
  rows: ReadonlySet<number>,
  put: (place: LanePlace) => LanePlace,
): CurveEdit {
  const { points } = hand;
  const [leftmost, rightmost] = hullOf(hand, rows);
  const moved: LanePlace[] = [];
  let [first, last] = [Infinity, -Infinity];
  for (const row of rows) {
    const place = put({ at: points.tick[row], value: points.value[row] });
    const at = Math.max(0, place.at);
    moved.push({ at, value: place.value });
    first = Math.min(first, at);
    last = Math.max(last, at);
  }
  const [from, to] = [Math.min(leftmost, first), Math.max(rightmost, last)];
  const left: LanePlace[] = [];
  let covered: LanePlace | null = null;
  for (let row = 0; row < points.length; row++) {
    const at = points.tick[row];
    const among = at >= leftmost && at <= rightmost;
    if (at < from || at > to || rows.has(row)) continue;
    if (!among && at >= first && at <= last) covered = { at, value: points.value[row] };
    else left.push({ at, value: points.value[row] });
  }
  // What several points come to lie over holds again behind them, as it did there before.
  const after = last + 1;
  const rules = firstAtOrAfter(points.tick, after + 1e-9) - 1;
  const isSeam = covered !== null && last > first && points.tick[rules] === covered.at;
  if (!covered || !isSeam) return editOf(hand, from, to, [...left, ...moved]);
  return editOf(hand, from, Math.max(to, after), [...left, ...moved, { at: after, value: covered.value }]);
}

/** Moves selected points in time and value. */
export const movePoints = (
  hand: LaneHand,
  rows: ReadonlySet<number>,
  ticks: number,
  value: number,
): CurveEdit => placePoints(hand, rows, (place) => ({ at: place.at + ticks, value: place.value + value }));

/** Gives selected points one value, or shifts each by so much; values end at the lane's ends. */
export const setPoints = (
  hand: LaneHand,
  rows: ReadonlySet<number>,
  { relative, value }: TypedValue,
  [low, high]: readonly [number, number],
): CurveEdit =>
  placePoints(hand, rows, (place) => ({
    at: place.at,
    value: Math.min(high, Math.max(low, relative ? place.value + value : value)),
  }));

/** Scales selected points in time and value, by factors from an anchor that stays. */
export const scalePoints = (
  hand: LaneHand,
  rows: ReadonlySet<number>,
  anchor: LanePlace,
  time: number,
  value: number,
): CurveEdit =>
  placePoints(hand, rows, (place) => ({
    at: anchor.at + (place.at - anchor.at) * time,
    value: anchor.value + (place.value - anchor.value) * value,
  }));

/** Deletes selected points. */
export function deletePoints(hand: LaneHand, rows: ReadonlySet<number>): CurveEdit {
  const [from, to] = hullOf(hand, rows);
  const left: LanePlace[] = [];
  for (let row = 0; row < hand.points.length; row++) {
    const at = hand.points.tick[row];
    if (at >= from && at <= to && !rows.has(row)) left.push({ at, value: hand.points.value[row] });
  }
  return editOf(hand, from, to, left);
}

/** Leaves nothing of a lane in a stretch; notes are not touched. */
export const clearStretch = (
  hand: Pick<LaneHand, 'lane' | 'channel'>,
  from: number,
  to: number,
): CurveEdit => ({
  lane: hand.lane,
  channel: hand.channel,
  from: Math.max(0, from),
  to: Math.max(0, to),
  points: [],
});

/** Some points of a lane, for copying. */
export function copyPoints({ points }: Pick<LaneHand, 'points'>, rows: ReadonlySet<number>): LanePoints {
  const order = [...rows].sort((a, b) => a - b);
  return pickPoints(points, order);
}

/**
 * Lays points down with the first at a tick; they replace what lies between their ends, and what held behind them
 * holds again. `laid` are the places of the points themselves.
 */
export function layPoints(
  hand: LaneHand,
  points: LanePoints,
  at: number,
): { edit: CurveEdit; laid: LanePlace[] } {
  const by = at - points.tick[0];
  const laid = Array.from(points.tick, (tick, row) => ({ at: tick + by, value: points.value[row] }));
  return { edit: laidWithSeam(hand, at, laid[laid.length - 1].at, laid), laid };
}

/** How far on a repeat of some points begins: as many whole bars as they reach over, so that a bar repeats as a bar. */
export function repeatDistance([from, to]: readonly [number, number], { meter }: Timeline): number {
  const first = barAt(meter, from);
  let end = first.start;
  // A point that stands on a bar line ends the bar before it, unless it is all there is.
  do end = barAt(meter, end).end;
  while (end < to);
  return end - first.start;
}
