import { PEDAL_DOWN, firstAtOrAfter, heldValue, type LanePoints, type PedalSpan } from '@ordle/core';
import { paintAlong, paintHelps } from './paintHelps';
import { xInLane, type LaneScene } from './laneScene';
import { marksOf, pressesIn, valueInWords, yOfValue } from './laneGeometry';

/** Points farther apart than this many pixels get a handle each. */
const ROOM_FOR_HANDLES = 9;

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
  paintAlong(context, scene);
  paintOthers(context, scene);
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
  if (scene.carried !== 0) paintCarried(context, scene);
  paintHelps(context, scene);
  paintGesture(context, scene);
  context.restore();
  context.fillStyle = colours.ruleStrong;
  context.fillRect(0, 0, width, 1);
  context.fillRect(gutter - 1, 0, 1, height);
}

function paintScale(context: CanvasRenderingContext2D, { view, width, height, gutter, colours }: LaneScene) {
  context.font = colours.letters;
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
      const at = Math.floor(xInLane(scene, points.tick[row]) - gutter);
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
      const x = xInLane(scene, points.tick[row]);
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

/** What other parts of the channel send, thinly in their inks: it holds here too. */
function paintOthers(context: CanvasRenderingContext2D, scene: LaneScene) {
  context.setLineDash([1, 2]);
  for (const { ink, points } of scene.view.others) {
    context.strokeStyle = scene.colours.parts[ink];
    paintHeld(context, scene, points);
  }
  context.setLineDash([]);
}

function paintHandles(context: CanvasRenderingContext2D, scene: LaneScene) {
  const { view, width, height, gutter, colours, selected } = scene;
  const { points } = view;
  const [first, end] = rowsInSight(scene, points);
  const roomy = end - first < (width - gutter) / ROOM_FOR_HANDLES;
  for (let row = first; row < end; row++) {
    const isSelected = selected.has(row);
    if (!roomy && !isSelected) continue;
    const [x, y] = [xInLane(scene, points.tick[row]), yOfValue(view, points.value[row], height)];
    context.fillStyle = colours.parts[scene.ink];
    context.fillRect(x - 2.5, y - 2.5, 5, 5);
    if (!isSelected) continue;
    context.lineWidth = 1.5;
    context.strokeStyle = colours.sheet;
    context.strokeRect(x - 3.25, y - 3.25, 6.5, 6.5);
    context.strokeStyle = colours.ink;
    context.strokeRect(x - 4.75, y - 4.75, 9.5, 9.5);
  }
}

/** Presses of a pedal as bars as deep at each moment as the pedal is, and as they were as outlines. */
function paintPresses(context: CanvasRenderingContext2D, scene: LaneScene) {
  const { view, height, colours, width } = scene;
  const floor = yOfValue(view, 0, height);
  /** Where painting has come to: in a crowd each pixel is painted once. */
  let painted = -Infinity;
  /** The outline of a press, from the floor up and down again; null where it is out of sight. */
  const outline = (
    points: LanePoints,
    press: PedalSpan,
  ): { left: number; right: number; path: Path2D } | null => {
    const left = xInLane(scene, press.start);
    const right = Math.max(left + 2, press.end === Infinity ? width : xInLane(scene, press.end));
    if (right < scene.gutter || left > width || right < painted + 1) return null;
    const path = new Path2D();
    path.moveTo(left, floor);
    for (let row = press.first; row < press.stop; row++) {
      if (points.value[row] === 0) continue;
      const y = yOfValue(view, points.value[row], height);
      path.lineTo(xInLane(scene, points.tick[row]), y);
      const next = row + 1 < press.stop ? xInLane(scene, points.tick[row + 1]) : right;
      path.lineTo(Math.max(next, left + 2), y);
    }
    path.lineTo(right, floor);
    return { left, right, path };
  };
  for (const press of pressesIn(view.points)) {
    const bar = outline(view.points, press);
    if (!bar) continue;
    painted = bar.right;
    context.fillStyle = scene.selected.has(press.first) ? colours.ink : colours.parts[scene.ink];
    context.globalAlpha = 0.25;
    context.fill(bar.path);
    context.globalAlpha = 1;
    const y = yOfValue(view, view.points.value[press.first], height);
    context.fillRect(bar.left, y, 2, floor - y);
    context.fillRect(bar.right - 2, y, 2, floor - y);
    // What does not press the pedal down by the standard is a line without a floor.
    if (press.depth >= PEDAL_DOWN) context.fillRect(bar.left, floor - 1, bar.right - bar.left, 1.5);
  }
  if (!view.trace) return;
  context.setLineDash([3, 2]);
  context.strokeStyle = colours.ink3;
  context.lineWidth = 1;
  painted = -Infinity;
  for (const press of pressesIn(view.trace)) {
    const bar = outline(view.trace, press);
    if (!bar) continue;
    painted = bar.right;
    context.stroke(bar.path);
  }
  context.setLineDash([]);
}

/** The points that go along where they would come to lie if the notes were let go now. */
function paintCarried(context: CanvasRenderingContext2D, scene: LaneScene) {
  const { view, along, carried, colours } = scene;
  context.strokeStyle = colours.ink;
  context.lineWidth = 1.5;
  for (const [from, to] of along) {
    let y = yOfValue(view, heldValue(view.points, from, view.resting), scene.height);
    context.beginPath();
    context.moveTo(xInLane(scene, from + carried), y);
    const stop = firstAtOrAfter(view.points.tick, to);
    for (let row = firstAtOrAfter(view.points.tick, from); row < stop; row++) {
      const x = xInLane(scene, view.points.tick[row] + carried);
      context.lineTo(x, y);
      y = yOfValue(view, view.points.value[row], scene.height);
      context.lineTo(x, y);
    }
    context.lineTo(xInLane(scene, to + carried), y);
    context.stroke();
  }
}

function paintGesture(context: CanvasRenderingContext2D, scene: LaneScene) {
  const { stroke, box, colours, height, view } = scene;
  context.strokeStyle = colours.ink;
  if (stroke && stroke.length > 0) {
    context.lineWidth = 2;
    context.beginPath();
    stroke.forEach(({ at, value }, index) => {
      const [x, y] = [xInLane(scene, at), yOfValue(view, value, height)];
      if (index === 0) context.moveTo(x, y);
      else context.lineTo(x, y);
    });
    context.stroke();
    // A press is told by its ends, which the ruler says.
    if (scene.pedal) return;
    const last = stroke[stroke.length - 1];
    const words = valueInWords(view.lane, last.value);
    context.font = `600 ${colours.letters}`;
    context.textBaseline = 'middle';
    const x = Math.min(xInLane(scene, last.at) + 10, scene.width - 40);
    const y = Math.min(height - 10, Math.max(10, yOfValue(view, last.value, height) - 12));
    context.fillStyle = colours.sheet;
    context.fillRect(x - 3, y - 8, context.measureText(words).width + 6, 16);
    context.fillStyle = colours.ink;
    context.fillText(words, x, y);
  }
  if (!box) return;
  context.lineWidth = 1;
  context.globalAlpha = 0.12;
  context.fillStyle = colours.ink;
  context.fillRect(box.left, box.top, box.right - box.left, box.bottom - box.top);
  context.globalAlpha = 1;
  context.strokeRect(box.left + 0.5, box.top + 0.5, box.right - box.left, box.bottom - box.top);
}
