import {
  clearStretch,
  createGrid,
  deletePoints,
  drawFreely,
  drawLine,
  drawSteps,
  laneName,
  movePoints,
  nearestLine,
  pedalSpans,
  type CurveEdit,
  type LaneHand,
  type LanePlace,
  type NoteValue,
  type PedalSpan,
  type Timeline,
} from '@ordle/core';
import type { LaneView } from '@/engine/protocol';
import { yOfValue } from './laneGeometry';

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
  chosen(): ReadonlySet<number>;
  choose(rows: Iterable<number>): void;
  /** Shows what the gesture would draw; nulls show nothing. */
  preview(
    stroke: LanePlace[] | null,
    box: { left: number; right: number; top: number; bottom: number } | null,
  ): void;
  /** The gesture ended: what is to be done, in words and as edits. */
  done(label: string, edits: CurveEdit[]): void;
}

/** A gesture under way; `end` takes it over, leaving it out abandons it. */
export interface CurveGesture {
  move(x: number, y: number, event: { altKey: boolean; shiftKey: boolean }): void;
  end(): void;
}

/** Pixels around a point or an edge that take hold of it. */
const REACH = 6;
/** Pixels before a press counts as a drag. */
const DRAG = 3;

export const handOf = ({ lane, channel, points, low, high }: LaneView): LaneHand => ({
  lane,
  channel,
  points,
  low,
  high,
});

/** The point nearest to a place within reach, or -1. */
export function pointNear(target: CurveGestureTarget, x: number, y: number): number {
  const view = target.view();
  const { points } = view;
  const tick = target.placeAt(x, y).at;
  const slack = REACH * target.ticksPerPixel();
  let [best, distance] = [-1, REACH + 1];
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
function snappedTick(target: CurveGestureTarget, tick: number, free: boolean): number {
  if (free || !target.snap()) return Math.round(tick);
  const grid = createGrid(target.timeline().meter, target.grid());
  return nearestLine(grid, Math.max(0, tick), { line: 0, step: 0 }).line;
}

/** Draws freely; with Shift a straight line, with Alt steps on the grid. What the stroke passes over is replaced. */
export function beginStroke(target: CurveGestureTarget, x: number, y: number): CurveGesture {
  const path = [target.placeAt(x, y)];
  let keys = { altKey: false, shiftKey: false };
  const name = () => laneName(target.view().lane);
  target.preview(path, null);
  return {
    move(toX, toY, event) {
      keys = { altKey: event.altKey, shiftKey: event.shiftKey };
      path.push(target.placeAt(toX, toY));
      target.preview(keys.shiftKey ? [path[0], path[path.length - 1]] : [...path], null);
    },
    end() {
      target.preview(null, null);
      const hand = handOf(target.view());
      const [first, last] = [path[0], path[path.length - 1]];
      if (keys.shiftKey)
        target.done(`Draw a line in ${name()}`, [drawLine(hand, first, last, target.timeline())]);
      else if (keys.altKey)
        target.done(`Draw steps in ${name()}`, [drawSteps(hand, path, target.grid(), target.timeline())]);
      else
        target.done(path.length === 1 ? `Draw a point in ${name()}` : `Draw in ${name()}`, [
          drawFreely(hand, path),
        ]);
    },
  };
}

/** Rubs out all points of a stretch. */
export function beginRub(target: CurveGestureTarget, x: number, y: number): CurveGesture {
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

/** On a point: chooses it (Shift adds) and moves all that are chosen; on empty ground: a box that chooses. */
export function beginChoice(target: CurveGestureTarget, x: number, y: number, adding: boolean): CurveGesture {
  const row = pointNear(target, x, y);
  if (row >= 0) {
    if (!target.chosen().has(row)) target.choose(adding ? [...target.chosen(), row] : [row]);
    return moveGesture(target, row, x, y);
  }
  const kept = adding ? [...target.chosen()] : [];
  let box: { left: number; right: number; top: number; bottom: number } | null = null;
  return {
    move(toX, toY) {
      if (!box && Math.hypot(toX - x, toY - y) < DRAG) return;
      box = {
        left: Math.min(x, toX),
        right: Math.max(x, toX),
        top: Math.min(y, toY),
        bottom: Math.max(y, toY),
      };
      target.preview(null, box);
    },
    end() {
      target.preview(null, null);
      target.choose(box ? [...kept, ...rowsInBox(target, box)] : kept);
    },
  };
}

function rowsInBox(
  target: CurveGestureTarget,
  box: { left: number; right: number; top: number; bottom: number },
): number[] {
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

function moveGesture(target: CurveGestureTarget, row: number, x: number, y: number): CurveGesture {
  const { points } = target.view();
  const start = target.placeAt(x, y);
  let [ticks, value] = [0, 0];
  return {
    move(toX, toY, event) {
      const place = target.placeAt(toX, toY);
      const wanted = points.tick[row] + place.at - start.at;
      // A move that is mostly up or down leaves the time alone.
      ticks = Math.abs(toX - x) < DRAG ? 0 : snappedTick(target, wanted, event.altKey) - points.tick[row];
      value = Math.abs(toY - y) < DRAG ? 0 : place.value - start.value;
      const moved = [...target.chosen()]
        .sort((a, b) => a - b)
        .map((each) => ({ at: points.tick[each] + ticks, value: points.value[each] + value }));
      target.preview(moved, null);
    },
    end() {
      target.preview(null, null);
      if (ticks === 0 && value === 0) return;
      const count = target.chosen().size;
      const words = count === 1 ? 'a point' : `${count} points`;
      target.done(`Move ${words} in ${laneName(target.view().lane)}`, [
        movePoints(handOf(target.view()), target.chosen(), ticks, value),
      ]);
    },
  };
}

/** Deletes the chosen points, or null when none is. */
export function deleteChosen(target: CurveGestureTarget): CurveEdit | null {
  return target.chosen().size === 0 ? null : deletePoints(handOf(target.view()), target.chosen());
}

/** The press under a place, and whether one of its ends is held. */
function pressAt(
  target: CurveGestureTarget,
  x: number,
): { press: PedalSpan; edge: 'start' | 'end' | null } | null {
  for (const press of pedalSpans(target.view().points)) {
    const [left, right] = [target.xOf(press.start), target.xOf(press.end)];
    if (x < left - REACH || x > right + REACH) continue;
    const edge = Math.abs(x - left) <= REACH ? 'start' : Math.abs(x - right) <= REACH ? 'end' : null;
    return { press, edge };
  }
  return null;
}

/** The lane with one press in place of another, or of none. */
function pressEdits(
  view: LaneView,
  old: PedalSpan | null,
  next: { start: number; end: number; depth: number } | null,
): CurveEdit[] {
  const base = { lane: view.lane, channel: view.channel };
  const edits: CurveEdit[] = [];
  if (old) edits.push(clearStretch(base, old.start, old.end === Infinity ? 1e9 : old.end));
  if (next)
    edits.push({
      ...base,
      from: next.start,
      to: next.end,
      points: [
        { at: next.start, value: next.depth },
        { at: next.end, value: 0 },
      ],
    });
  return edits;
}

/** On a press: moves it, or trims the end that is held; on empty ground, and with the drawing tool anywhere: a new press. */
export function beginPress(target: CurveGestureTarget, x: number, y: number, drawing: boolean): CurveGesture {
  const hit = drawing ? null : pressAt(target, x);
  const pressed = target.placeAt(x, y);
  const depth = hit ? hit.press.depth : Math.max(64, pressed.value);
  let next: { start: number; end: number; depth: number } | null = null;
  if (hit) target.choose([hit.press.first]);
  return {
    move(toX, toY, event) {
      const at = snappedTick(target, target.placeAt(toX, toY).at, event.altKey);
      if (!hit) {
        const from = snappedTick(target, pressed.at, event.altKey);
        next = from === at ? null : { start: Math.min(from, at), end: Math.max(from, at), depth };
      } else {
        const { press, edge } = hit;
        const end = press.end === Infinity ? target.placeAt(toX, toY).at : press.end;
        const by =
          snappedTick(target, press.start + target.placeAt(toX, toY).at - pressed.at, event.altKey) -
          press.start;
        if (edge === 'start') next = { start: Math.min(at, end - 1), end, depth };
        else if (edge === 'end') next = { start: press.start, end: Math.max(at, press.start + 1), depth };
        else next = { start: Math.max(0, press.start + by), end: end + Math.max(-press.start, by), depth };
      }
      target.preview(
        next && [
          { at: next.start, value: 0 },
          { at: next.start, value: depth },
          { at: next.end, value: depth },
          { at: next.end, value: 0 },
        ],
        null,
      );
    },
    end() {
      target.preview(null, null);
      if (next)
        target.done(
          hit ? 'Move a press of the pedal' : 'Draw a press of the pedal',
          pressEdits(target.view(), hit?.press ?? null, next),
        );
    },
  };
}

/** Takes away the presses a drag goes over. */
export function beginPressRub(target: CurveGestureTarget, x: number): CurveGesture {
  const gone = new Map<number, PedalSpan>();
  const rub = (at: number) => {
    const hit = pressAt(target, at);
    if (hit) gone.set(hit.press.first, hit.press);
    target.choose(gone.keys());
  };
  rub(x);
  return {
    move: (toX) => rub(toX),
    end() {
      if (gone.size === 0) return;
      const view = target.view();
      target.done(
        gone.size === 1 ? 'Erase a press of the pedal' : `Erase ${gone.size} presses of the pedal`,
        [...gone.values()].flatMap((press) => pressEdits(view, press, null)),
      );
    },
  };
}
