import { secondsToTicks, ticksToSeconds, type Timeline } from '../time';
import { lineThrough, type CurveEdit, type DrawnLine } from '../steps';
import { heldIn, laidWithSeam, type LaneHand, type LanePlace } from './curveOperations';

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
  const whole = (value: number) => Math.round(heldIn(hand, value));
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
  const line = lineOf(next.from, next.to, { ...next.through, value: heldIn(hand, next.through.value) });
  const from = Math.min(before.from.at, line.from.at);
  const to = Math.max(before.to.at, line.to.at);
  return { ...laidWithSeam(hand, from, to, bentPlaces(hand, line, timeline)), line };
}
