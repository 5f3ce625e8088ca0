import type { LanePoints } from '../curves';
import { greatestOf, leastOf } from '../model';
import {
  createGrid,
  firstAtOrAfter,
  nearestLine,
  secondsToTicks,
  ticksToSeconds,
  type NoteValue,
  type Timeline,
} from '../time';
import { lineThrough, type CurveEdit, type DrawnLine } from '../steps';

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

const held = ({ low, high }: LaneHand, value: number) => Math.min(high, Math.max(low, value));

/** An edit of a stretch of a lane, its points in order and held to what the lane can hold. */
export function editOf(hand: LaneHand, from: number, to: number, places: readonly LanePlace[]): CurveEdit {
  const points = places
    .map(({ at, value }) => ({ at: Math.max(0, at), value: held(hand, value) }))
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

/** A line with a place half-way that it goes through: without one, straight. */
export const lineOf = (
  from: LanePlace,
  to: LanePlace,
  through: LanePlace = { at: (from.at + to.at) / 2, value: (from.value + to.value) / 2 },
): DrawnLine => ({ from, to, through });

/** A straight line between two places, in points as a ramp has them. */
export function drawLine(hand: LaneHand, a: LanePlace, b: LanePlace, timeline: Timeline): CurveEdit {
  const [from, to] = a.at <= b.at ? [a, b] : [b, a];
  const edit = laidWithSeam(hand, from.at, to.at, lineThrough(from, to, 1, timeline));
  return { ...edit, line: lineOf(from, to) };
}

/**
 * A line with an end of it elsewhere: the place it goes through keeps its share of the time and lies as far above or
 * below the straight line as before.
 */
export function withEnd(line: DrawnLine, end: 'from' | 'to', place: LanePlace): DrawnLine {
  const share =
    line.to.at === line.from.at ? 0.5 : (line.through.at - line.from.at) / (line.to.at - line.from.at);
  const above = line.through.value - (line.from.value + line.to.value) / 2;
  const next = { ...line, [end]: place };
  const at = next.from.at + share * (next.to.at - next.from.at);
  return { ...next, through: { at, value: (next.from.value + next.to.value) / 2 + above } };
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

/**
 * Places a bent line is worked out at; far more than a lane has steps between its least and greatest value, bends
 * apart.
 */
const BENT_PLACES = 1024;
/** Seconds between two points of a drawn line at least. */
const LEAST_SECONDS = 0.005;

/**
 * A place on a line from `a` to `b` that is bent to go through `through` half-way, at a share (0-1) of its way: a
 * quadratic Bezier curve, whose middle point is (a + 2c + b) / 4, so that c = 2 through - (a + b) / 2. Its time never
 * runs back: c stays between the ends.
 */
export function bentPlace(a: LanePlace, b: LanePlace, through: LanePlace, share: number): LanePlace {
  const mixed = (from: number, by: number, to: number) =>
    (1 - share) ** 2 * from + 2 * share * (1 - share) * by + share ** 2 * to;
  const [left, right] = [Math.min(a.at, b.at), Math.max(a.at, b.at)];
  const at = Math.min(right, Math.max(left, 2 * through.at - (a.at + b.at) / 2));
  const value = 2 * through.value - (a.value + b.value) / 2;
  return { at: mixed(a.at, at, b.at), value: mixed(a.value, value, b.value) };
}

/** A point at each change of a whole value, at most one each 5 ms; the last value is reached. */
function bentPlaces(hand: LaneHand, { from, to, through }: DrawnLine, { tempo }: Timeline): LanePlace[] {
  const whole = (value: number) => Math.round(held(hand, value));
  const places: LanePlace[] = [{ at: from.at, value: whole(from.value) }];
  let earliest = secondsToTicks(tempo, ticksToSeconds(tempo, from.at) + LEAST_SECONDS);
  for (let count = 1; count <= BENT_PLACES; count++) {
    const place = bentPlace(from, to, through, count / BENT_PLACES);
    const value = whole(place.value);
    const isLast = count === BENT_PLACES;
    if (value === places[places.length - 1].value || (place.at < earliest && !isLast)) continue;
    if (place.at < earliest && places.length > 1) places.pop();
    places.push({ at: place.at, value });
    earliest = secondsToTicks(tempo, ticksToSeconds(tempo, place.at) + LEAST_SECONDS);
  }
  return places;
}

/** A smooth curve between two places through a third. */
export function drawBent(
  hand: LaneHand,
  a: LanePlace,
  b: LanePlace,
  through: LanePlace,
  timeline: Timeline,
): CurveEdit {
  const line = a.at <= b.at ? lineOf(a, b, through) : lineOf(b, a, through);
  return { ...laidWithSeam(hand, line.from.at, line.to.at, bentPlaces(hand, line, timeline)), line };
}

/** A drawn line in another shape, in its place; where it was longer, what it ends with holds on. */
export function reshapedLine(
  hand: LaneHand,
  before: DrawnLine,
  next: DrawnLine,
  timeline: Timeline,
): CurveEdit {
  const line = lineOf(next.from, next.to, { ...next.through, value: held(hand, next.through.value) });
  const from = Math.min(before.from.at, line.from.at);
  const to = Math.max(before.to.at, line.to.at);
  return { ...laidWithSeam(hand, from, to, bentPlaces(hand, line, timeline)), line };
}
