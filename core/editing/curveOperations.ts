import { heldValue, pointsOf, type LanePoints } from '../curves';
import { createGrid, nearestLine, type NoteValue, type Timeline } from '../time';
import { lineThrough, type CurveEdit } from '../steps';

/** A lane of a part as a hand sees it: its points in the lane's own unit. */
export interface LaneHand {
  lane: string;
  /** 1-16. */
  channel: number;
  points: LanePoints;
  low: number;
  high: number;
}

/** A place in a lane. */
export interface LanePlace {
  at: number;
  value: number;
}

const held = ({ low, high }: LaneHand, value: number) => Math.min(high, Math.max(low, value));

function editOf(hand: LaneHand, from: number, to: number, places: readonly LanePlace[]): CurveEdit {
  const points = places
    .map(({ at, value }) => ({ at: Math.max(0, at), value: held(hand, value) }))
    .sort((a, b) => a.at - b.at);
  return { lane: hand.lane, channel: hand.channel, from: Math.max(0, from), to: Math.max(0, to), points };
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
  const ticks = path.map(({ at }) => at);
  return editOf(hand, Math.min(...ticks), Math.max(...ticks), kept);
}

/** A straight line between two places, in points as a ramp has them. */
export function drawLine(hand: LaneHand, a: LanePlace, b: LanePlace, timeline: Timeline): CurveEdit {
  const [from, to] = a.at <= b.at ? [a, b] : [b, a];
  return editOf(hand, from.at, to.at, lineThrough(from, to, 1, timeline));
}

/** A drawn path as steps: one value for each stretch between two lines of a grid, what the hand was at last within it. */
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
  const ticks = places.map(({ at }) => at);
  return editOf(hand, Math.min(...ticks), Math.max(...ticks) + step - 1, places);
}

/** Moves chosen points in time and value; those they pass over in the stretch they come to are replaced. */
export function movePoints(
  hand: LaneHand,
  rows: ReadonlySet<number>,
  ticks: number,
  value: number,
): CurveEdit {
  const { points } = hand;
  const moved: LanePlace[] = [];
  let [from, to] = [Infinity, -Infinity];
  let [leftmost, rightmost] = [Infinity, -Infinity];
  for (const row of rows) {
    leftmost = Math.min(leftmost, points.tick[row]);
    rightmost = Math.max(rightmost, points.tick[row]);
    const at = Math.max(0, points.tick[row] + ticks);
    moved.push({ at, value: points.value[row] + value });
    from = Math.min(from, at, points.tick[row]);
    to = Math.max(to, at, points.tick[row]);
  }
  const landing = moved.map(({ at }) => at);
  const [first, last] = [Math.min(...landing), Math.max(...landing)];
  const left: LanePlace[] = [];
  for (let row = 0; row < points.length; row++) {
    const at = points.tick[row];
    // What lay among the chosen ones without being chosen stays; what they come to lie over goes.
    const among = at >= leftmost && at <= rightmost;
    if (at < from || at > to || rows.has(row) || (!among && at >= first && at <= last)) continue;
    left.push({ at, value: points.value[row] });
  }
  return editOf(hand, from, to, [...left, ...moved]);
}

/** Scales chosen points: in time from their first, in value from their lowest. */
export function scalePoints(
  hand: LaneHand,
  rows: ReadonlySet<number>,
  time: number,
  value: number,
): CurveEdit {
  const chosen = [...rows].map((row) => ({ at: hand.points.tick[row], value: hand.points.value[row] }));
  const first = Math.min(...chosen.map(({ at }) => at));
  const lowest = Math.min(...chosen.map((place) => place.value));
  const scaled = chosen.map((place) => ({
    at: first + (place.at - first) * time,
    value: lowest + (place.value - lowest) * value,
  }));
  const ends = [...chosen, ...scaled].map(({ at }) => at);
  const [from, to] = [Math.min(...ends), Math.max(...ends)];
  return editOf(hand, from, to, scaled);
}

/** Deletes chosen points. */
export function deletePoints(hand: LaneHand, rows: ReadonlySet<number>): CurveEdit {
  const ticks = [...rows].map((row) => hand.points.tick[row]);
  const [from, to] = [Math.min(...ticks), Math.max(...ticks)];
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

/** Points of a stretch, for copying; the value in force at its start comes first. */
export function copyStretch(hand: LaneHand, from: number, to: number, resting: number): LanePoints {
  const list: { tick: number; value: number }[] = [
    { tick: from, value: heldValue(hand.points, from, resting) },
  ];
  for (let row = 0; row < hand.points.length; row++)
    if (hand.points.tick[row] > from && hand.points.tick[row] <= to)
      list.push({ tick: hand.points.tick[row], value: hand.points.value[row] });
  return pointsOf(list);
}
