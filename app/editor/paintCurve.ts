import { firstAtOrAfter, pedalSpans, type LanePoints } from '@ordle/core';
import type { LaneView } from '@/engine/protocol';
import type { EditorWindow } from '@/state/viewSlice';
import type { Colours } from './colours';
import { marksOf, valueInWords, yOfValue } from './laneGeometry';

/** Everything a lane's painters need; they read it and change nothing. Sizes in CSS pixels. */
export interface LaneScene {
  view: LaneView;
  window: EditorWindow;
  width: number;
  height: number;
  gutter: number;
  ink: number;
  colours: Colours;
  /** Chosen points, by row. */
  chosen: ReadonlySet<number>;
  /** What the gesture under way would make of the lane: ticks and values of a stroke, or a box. */
  stroke: { at: number; value: number }[] | null;
  box: { left: number; right: number; top: number; bottom: number } | null;
  pedal: boolean;
}

/** Points farther apart than this many pixels get a handle each. */
const ROOM_FOR_HANDLES = 9;

const xOf = ({ window, gutter }: LaneScene, tick: number) =>
  gutter + (tick - window.tick) / window.ticksPerPixel;

/** The lane: its scale, how it was, how it is, and what a gesture would draw. */
export function paintCurve(context: CanvasRenderingContext2D, scene: LaneScene) {
  const { width, height, gutter, colours, view } = scene;
  context.fillStyle = colours.sheet;
  context.fillRect(0, 0, width, height);
  paintScale(context, scene);
  context.save();
  context.beginPath();
  context.rect(gutter, 0, width - gutter, height);
  context.clip();
  if (scene.pedal) paintPresses(context, scene);
  else {
    if (view.trace) {
      context.setLineDash([3, 2]);
      context.strokeStyle = colours.ink3;
      paintHeld(context, scene, view.trace);
      context.setLineDash([]);
    }
    context.strokeStyle = colours.parts[scene.ink];
    paintHeld(context, scene, view.points);
    paintHandles(context, scene);
  }
  paintGesture(context, scene);
  context.restore();
  context.fillStyle = colours.ruleStrong;
  context.fillRect(0, 0, width, 1);
  context.fillRect(gutter - 1, 0, 1, height);
}

function paintScale(context: CanvasRenderingContext2D, { view, width, height, gutter, colours }: LaneScene) {
  context.font = `10.5px ${colours.font}`;
  context.textBaseline = 'middle';
  context.textAlign = 'right';
  for (const value of marksOf(view, height)) {
    const y = Math.round(yOfValue(view, value, height));
    context.fillStyle = value === 0 && view.low < 0 ? colours.ruleStrong : colours.rule;
    context.fillRect(gutter, y, width - gutter, 1);
    context.fillStyle = colours.ink3;
    context.fillText(valueInWords(view.lane, value), gutter - 6, Math.min(height - 7, Math.max(7, y)));
  }
  context.textAlign = 'left';
}

/** Rows of the points in sight, with the one that holds into it. */
function rowsInSight({ window, width, gutter }: LaneScene, { tick }: LanePoints): [number, number] {
  const until = window.tick + (width - gutter) * window.ticksPerPixel;
  return [Math.max(0, firstAtOrAfter(tick, window.tick) - 1), firstAtOrAfter(tick, until)];
}

/** A line that holds each value until the next. In a crowd each pixel shows its least and greatest value. */
function paintHeld(context: CanvasRenderingContext2D, scene: LaneScene, points: LanePoints) {
  const { view, width, height, gutter } = scene;
  const [first, end] = rowsInSight(scene, points);
  context.lineWidth = 1.5;
  context.beginPath();
  if (end - first > 2 * (width - gutter)) {
    let [pixel, low, high] = [-1, 0, 0];
    const flush = () => {
      if (pixel < 0) return;
      context.moveTo(gutter + pixel + 0.5, yOfValue(view, low, height) + 0.75);
      context.lineTo(gutter + pixel + 0.5, yOfValue(view, high, height) - 0.75);
    };
    for (let row = first; row < end; row++) {
      const at = Math.floor(xOf(scene, points.tick[row]) - gutter);
      const value = points.value[row];
      if (at !== pixel) {
        flush();
        [pixel, low, high] = [at, value, value];
      } else if (value < low) low = value;
      else if (value > high) high = value;
    }
    flush();
  } else {
    let y = yOfValue(view, view.resting, height);
    for (let row = first; row < end; row++) {
      const x = xOf(scene, points.tick[row]);
      const next = yOfValue(view, points.value[row], height);
      if (row === first) context.moveTo(x, next);
      else {
        context.lineTo(x, y);
        context.lineTo(x, next);
      }
      y = next;
    }
    if (end > first) context.lineTo(width, y);
  }
  context.stroke();
}

function paintHandles(context: CanvasRenderingContext2D, scene: LaneScene) {
  const { view, width, height, gutter, colours, chosen } = scene;
  const { points } = view;
  const [first, end] = rowsInSight(scene, points);
  const roomy = end - first < (width - gutter) / ROOM_FOR_HANDLES;
  for (let row = first; row < end; row++) {
    const isChosen = chosen.has(row);
    if (!roomy && !isChosen) continue;
    const [x, y] = [xOf(scene, points.tick[row]), yOfValue(view, points.value[row], height)];
    context.fillStyle = isChosen ? colours.accent : colours.parts[scene.ink];
    const size = isChosen ? 7 : 5;
    context.fillRect(x - size / 2, y - size / 2, size, size);
  }
}

/** Presses of a pedal as bars as high as they are deep, and as they were as outlines. */
function paintPresses(context: CanvasRenderingContext2D, scene: LaneScene) {
  const { view, height, colours, width } = scene;
  const bar = (points: LanePoints, draw: (x: number, right: number, y: number, first: number) => void) => {
    for (const { start, end, depth, first } of pedalSpans(points)) {
      const [x, right] = [xOf(scene, start), end === Infinity ? width : xOf(scene, end)];
      if (right < scene.gutter || x > width) continue;
      draw(x, Math.max(x + 2, right), yOfValue(view, depth, height), first);
    }
  };
  const floor = yOfValue(view, 0, height);
  bar(view.points, (x, right, y, first) => {
    context.fillStyle = scene.chosen.has(first) ? colours.accent : colours.parts[scene.ink];
    context.globalAlpha = 0.25;
    context.fillRect(x, y, right - x, floor - y);
    context.globalAlpha = 1;
    context.fillRect(x, y, 2, floor - y);
    context.fillRect(right - 2, y, 2, floor - y);
    context.fillRect(x, floor - 1, right - x, 1.5);
  });
  if (!view.trace) return;
  context.setLineDash([3, 2]);
  context.strokeStyle = colours.ink3;
  context.lineWidth = 1;
  bar(view.trace, (x, right, y) => context.strokeRect(x + 0.5, y + 0.5, right - x - 1, floor - y));
  context.setLineDash([]);
}

function paintGesture(context: CanvasRenderingContext2D, scene: LaneScene) {
  const { stroke, box, colours, height, view } = scene;
  context.strokeStyle = colours.accent;
  if (stroke && stroke.length > 0) {
    context.lineWidth = 2;
    context.beginPath();
    stroke.forEach(({ at, value }, index) => {
      const [x, y] = [xOf(scene, at), yOfValue(view, value, height)];
      if (index === 0) context.moveTo(x, y);
      else context.lineTo(x, y);
    });
    context.stroke();
    const last = stroke[stroke.length - 1];
    const words = valueInWords(view.lane, last.value);
    context.font = `600 12px ${colours.font}`;
    context.textBaseline = 'middle';
    const x = Math.min(xOf(scene, last.at) + 10, scene.width - 40);
    const y = Math.min(height - 10, Math.max(10, yOfValue(view, last.value, height) - 12));
    context.fillStyle = colours.sheet;
    context.fillRect(x - 3, y - 8, context.measureText(words).width + 6, 16);
    context.fillStyle = colours.ink;
    context.fillText(words, x, y);
  }
  if (!box) return;
  context.lineWidth = 1;
  context.globalAlpha = 0.12;
  context.fillStyle = colours.accent;
  context.fillRect(box.left, box.top, box.right - box.left, box.bottom - box.top);
  context.globalAlpha = 1;
  context.strokeRect(box.left + 0.5, box.top + 0.5, box.right - box.left, box.bottom - box.top);
}
