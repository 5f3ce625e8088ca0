import {
  clearStretch,
  createGrid,
  drawFreely,
  drawLine,
  drawSteps,
  laneName,
  movePoints,
  nearestLine,
  type CurveEdit,
  type LaneHand,
  type LanePlace,
  type NoteValue,
  type Timeline,
  type LaneView,
} from '@ordle/core';
import { reachOf, type Gesture } from '@/surface';
import { yOfValue } from './laneGeometry';
import { figures } from '@/words/counts';

/** What gestures in a lane need to know and may do. */
export interface CurveGestureTarget {
  view(): LaneView;
  height(): number;
  timeline(): Timeline;
  grid(): NoteValue[];
  snap(): boolean;
  ticksPerPixel(): number;
  placeAt(x: number, y: number): LanePlace;
  xOf(tick: number): number;
  selected(): ReadonlySet<number>;
  select(rows: Iterable<number>): void;
  /** Shows what the gesture would draw; nulls show nothing. */
  preview(
    stroke: LanePlace[] | null,
    box: { left: number; right: number; top: number; bottom: number } | null,
  ): void;
  /** The gesture is under way: what would be done if it ended now, so that it is heard while music plays. */
  live(label: string, make: () => CurveEdit[]): void;
  /** The gesture ended: what is to be done, in words and as edits; and the places that are selected afterwards. */
  done(label: string, edits: CurveEdit[], selected?: readonly LanePlace[]): void;
}

/** Pixels around a point or an edge that take hold of it. */
export const REACH = 6;
/** Pixels before a press counts as a drag. */
export const DRAG = 3;
/** More points than this are shown as a box while they are dragged. */
const MOST_SHOWN = 4000;

export const handOf = ({ lane, channel, points, low, high, resting }: LaneView): LaneHand => ({
  lane,
  channel,
  points,
  low,
  high,
  resting,
});

/** The point nearest to a place within reach, or -1. */
export function pointNear(target: CurveGestureTarget, x: number, y: number, reach = reachOf(REACH)): number {
  const view = target.view();
  const { points } = view;
  const tick = target.placeAt(x, y).at;
  const slack = reach * target.ticksPerPixel();
  let [best, distance] = [-1, reach + 1];
  for (let row = 0; row < points.length; row++) {
    if (points.tick[row] < tick - slack) continue;
    if (points.tick[row] > tick + slack) break;
    const away = Math.hypot(
      target.xOf(points.tick[row]) - x,
      yOfValue(view, points.value[row], target.height()) - y,
    );
    if (away < distance) [best, distance] = [row, away];
  }
  return best;
}

/** The place a drag comes to: on the grid when it snaps, unless Alt is held. */
export function snappedTick(target: CurveGestureTarget, tick: number, free: boolean): number {
  if (free || !target.snap()) return Math.round(tick);
  const grid = createGrid(target.timeline().meter, target.grid());
  return nearestLine(grid, Math.max(0, tick), { line: 0, step: 0 }).line;
}

/**
 * Draws freely; with Shift a straight line, with Alt steps on the grid. What the stroke passes over is replaced.
 */
export function beginStroke(target: CurveGestureTarget, x: number, y: number): Gesture {
  const path = [target.placeAt(x, y)];
  const hand = handOf(target.view());
  const name = laneName(hand.lane);
  let keys = { altKey: false, shiftKey: false };
  const ends = (): [LanePlace, LanePlace] => [path[0], path[path.length - 1]];
  const made = (): [string, CurveEdit[]] => {
    if (keys.shiftKey) return [`Draw a line in ${name}`, [drawLine(hand, ...ends(), target.timeline())]];
    if (keys.altKey)
      return [`Draw steps in ${name}`, [drawSteps(hand, path, target.grid(), target.timeline())]];
    return [path.length === 1 ? `Draw a point in ${name}` : `Draw in ${name}`, [drawFreely(hand, path)]];
  };
  target.preview(path, null);
  return {
    move(toX, toY, event) {
      keys = { altKey: event.altKey, shiftKey: event.shiftKey };
      path.push(target.placeAt(toX, toY));
      target.preview(keys.shiftKey ? ends() : [...path], null);
      target.live(made()[0], () => made()[1]);
    },
    end() {
      target.preview(null, null);
      target.done(...made());
    },
  };
}

/** Rubs out all points of a stretch. */
export function beginRub(target: CurveGestureTarget, x: number, y: number): Gesture {
  const from = target.placeAt(x, y).at;
  let to = from;
  const half = REACH * target.ticksPerPixel();
  return {
    move(toX, toY) {
      to = target.placeAt(toX, toY).at;
      target.preview(null, {
        left: Math.min(x, toX),
        right: Math.max(x, toX),
        top: 0,
        bottom: target.height(),
      });
    },
    end() {
      target.preview(null, null);
      const edit = clearStretch(handOf(target.view()), Math.min(from, to) - half, Math.max(from, to) + half);
      target.done(`Erase in ${laneName(target.view().lane)}`, [edit]);
    },
  };
}

/**
 * On a point: selects it (Shift adds) and moves all that are selected; on empty ground: a box that selects, with Alt
 * all of a stretch of time whatever their values.
 */
export function beginSelection(target: CurveGestureTarget, x: number, y: number, adding: boolean): Gesture {
  const row = pointNear(target, x, y);
  if (row >= 0) {
    if (!target.selected().has(row)) target.select(adding ? [...target.selected(), row] : [row]);
    return moveGesture(target, row, x, y);
  }
  return boxGesture(target, x, y, adding ? [...target.selected()] : []);
}

/**
 * A box that selects the points in it beside those kept. `grow` may widen what was found, as a press is selected
 * whole.
 */
export function boxGesture(
  target: CurveGestureTarget,
  x: number,
  y: number,
  kept: readonly number[],
  grow: (rows: number[]) => Iterable<number> = (rows) => rows,
): Gesture {
  let box: Box | null = null;
  return {
    move(toX, toY, { altKey }) {
      if (!box && Math.hypot(toX - x, toY - y) < DRAG) return;
      box = {
        left: Math.min(x, toX),
        right: Math.max(x, toX),
        top: altKey ? 0 : Math.min(y, toY),
        bottom: altKey ? target.height() : Math.max(y, toY),
      };
      target.preview(null, box);
    },
    end() {
      target.preview(null, null);
      target.select(box ? [...kept, ...grow(rowsInBox(target, box))] : kept);
    },
  };
}

interface Box {
  left: number;
  right: number;
  top: number;
  bottom: number;
}

function rowsInBox(target: CurveGestureTarget, box: Box): number[] {
  const view = target.view();
  const [from, to] = [target.placeAt(box.left, 0).at, target.placeAt(box.right, 0).at];
  const rows: number[] = [];
  for (let row = 0; row < view.points.length; row++) {
    const at = view.points.tick[row];
    if (at < from || at > to) continue;
    const y = yOfValue(view, view.points.value[row], target.height());
    if (y >= box.top - 1 && y <= box.bottom + 1) rows.push(row);
  }
  return rows;
}

/**
 * The selected points as they would be, in order of time, or only the stretch they take up when there are very many.
 */
export function showPlaces(target: CurveGestureTarget, places: readonly LanePlace[]) {
  if (places.length <= MOST_SHOWN) target.preview([...places], null);
  else
    target.preview(null, {
      left: target.xOf(places[0].at),
      right: target.xOf(places[places.length - 1].at),
      top: 0,
      bottom: target.height(),
    });
}

/** Selected points of a lane as places, in order of time. */
export function placesOf({ points }: LaneHand, rows: ReadonlySet<number>): LanePlace[] {
  const order = Int32Array.from(rows).sort();
  return Array.from(order, (row) => ({ at: points.tick[row], value: points.value[row] }));
}

function moveGesture(target: CurveGestureTarget, row: number, x: number, y: number): Gesture {
  const hand = handOf(target.view());
  const { points } = hand;
  const rows = new Set(target.selected());
  const places = placesOf(hand, rows);
  const start = target.placeAt(x, y);
  const label = `Move ${pointsInWords(rows.size)} in ${laneName(hand.lane)}`;
  let [ticks, value] = [0, 0];
  const moved = () => places.map((place) => ({ at: place.at + ticks, value: place.value + value }));
  return {
    move(toX, toY, event) {
      const place = target.placeAt(toX, toY);
      const wanted = points.tick[row] + place.at - start.at;
      // A move that is mostly up or down leaves the time alone.
      ticks = Math.abs(toX - x) < DRAG ? 0 : snappedTick(target, wanted, event.altKey) - points.tick[row];
      value = Math.abs(toY - y) < DRAG ? 0 : place.value - start.value;
      showPlaces(target, moved());
      target.live(label, () => [movePoints(hand, rows, ticks, value)]);
    },
    end() {
      target.preview(null, null);
      if (ticks !== 0 || value !== 0) target.done(label, [movePoints(hand, rows, ticks, value)], moved());
    },
  };
}

export const pointsInWords = (count: number): string =>
  count === 1 ? 'a point' : `${figures(count)} points`;
