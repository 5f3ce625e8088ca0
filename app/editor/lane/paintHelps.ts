import { heldValue } from '@ordle/core';
import { yOfValue } from './laneGeometry';
import { MARK_OFFSET, valueOfMark } from './markGestures';
import { xInLane, type LaneScene } from './laneScene';
import { LEAST_HANDLED, LINE_HANDLES, cornersOf, placeOf } from './shapeGestures';

/** The stretches of time whose points go along with the selected notes, and where they are being dragged to. */
export function paintAlong(context: CanvasRenderingContext2D, scene: LaneScene) {
  const { along, carried, height, colours, width, gutter } = scene;
  context.fillStyle = colours.ink;
  for (const [from, to] of along) {
    const band = (by: number, alpha: number) => {
      const [left, right] = [xInLane(scene, from + by), xInLane(scene, to + by)];
      if (right < gutter || left > width) return;
      context.globalAlpha = alpha;
      context.fillRect(left, 0, right - left, height);
    };
    band(0, 0.06);
    if (carried !== 0) band(carried, 0.12);
  }
  context.globalAlpha = 1;
}

/**
 * What can be taken hold of: the corners around selected points, the handle of a line, dynamic marks with their
 * hairpins.
 */
export function paintHelps(context: CanvasRenderingContext2D, scene: LaneScene) {
  paintMarks(context, scene);
  paintCorners(context, scene);
  paintLineHandles(context, scene);
  paintError(context, scene);
}

/** A ring around the point that a thinned lane is farthest from, and how far that is, as a line to what is left. */
function paintError(context: CanvasRenderingContext2D, scene: LaneScene) {
  const { error, view, height, colours } = scene;
  if (!error) return;
  const x = xInLane(scene, error.at);
  const y = yOfValue(view, error.value, height);
  context.strokeStyle = colours.ink;
  context.lineWidth = 1.5;
  context.beginPath();
  context.moveTo(x, y);
  context.lineTo(x, yOfValue(view, heldValue(view.points, error.at, view.resting), height));
  context.moveTo(x + 5, y);
  context.arc(x, y, 5, 0, 2 * Math.PI);
  context.stroke();
}

function paintCorners(context: CanvasRenderingContext2D, scene: LaneScene) {
  const { selectionBox, colours, view, height } = scene;
  if (!selectionBox) return;
  const corners = cornersOf(
    selectionBox,
    (tick) => xInLane(scene, tick),
    (value) => yOfValue(view, value, height),
  );
  const [left, right] = [corners[0].x, corners[3].x];
  const [bottom, top] = [corners[0].y, corners[3].y];
  context.strokeStyle = colours.ink;
  context.lineWidth = 1;
  context.setLineDash([2, 3]);
  context.strokeRect(left, top, right - left, bottom - top);
  context.setLineDash([]);
  for (const { x, y } of corners) {
    context.fillStyle = colours.sheet;
    context.fillRect(x - 3.5, y - 3.5, 7, 7);
    context.strokeRect(x - 3.5, y - 3.5, 7, 7);
  }
}

/** The handles of lines that can be shaped: a ring half-way, smaller ones at the ends. */
function paintLineHandles(context: CanvasRenderingContext2D, scene: LaneScene) {
  const { lines, colours, view, height, width, gutter } = scene;
  for (const line of lines) {
    const [from, to] = [xInLane(scene, line.from.at), xInLane(scene, line.to.at)];
    if (Math.abs(to - from) < LEAST_HANDLED || Math.max(from, to) < gutter || Math.min(from, to) > width)
      continue;
    for (const handle of scene.endsShape ? LINE_HANDLES : (['through'] as const)) {
      const place = placeOf(line, handle);
      context.beginPath();
      const radius = handle === 'through' ? 5 : 3.5;
      context.arc(xInLane(scene, place.at), yOfValue(view, place.value, height), radius, 0, 2 * Math.PI);
      context.fillStyle = colours.sheet;
      context.fill();
      context.strokeStyle = colours.ink;
      context.lineWidth = handle === 'through' ? 2 : 1.5;
      context.stroke();
    }
  }
}

function paintMarks(context: CanvasRenderingContext2D, scene: LaneScene) {
  const { marks, colours, view, height, width, gutter } = scene;
  if (!marks) return;
  const placed = [...marks.marks]
    .sort((a, b) => a.at - b.at)
    .map((mark) => ({
      ...mark,
      x: xInLane(scene, mark.at),
      y: yOfValue(view, valueOfMark(marks, mark.mark), height),
    }));
  context.font = 'italic 700 14px "Source Serif 4", serif';
  context.textBaseline = 'middle';
  context.strokeStyle = context.fillStyle = colours.ink;
  context.lineWidth = 1;
  placed.forEach((mark, index) => {
    const next = placed[index + 1];
    const letters = context.measureText(mark.mark).width;
    const middle = mark.y + MARK_OFFSET.y;
    if (mark.x <= width && (next?.x ?? mark.x + letters) >= gutter) {
      context.fillRect(mark.x - 0.5, mark.y - 4, 1, 8);
      // A rim of the ground's colour keeps the letters clear of the curve.
      context.strokeStyle = colours.sheet;
      context.lineWidth = 4;
      context.strokeText(mark.mark, mark.x + MARK_OFFSET.x, middle);
      context.strokeStyle = colours.ink;
      context.lineWidth = 1;
      context.fillText(mark.mark, mark.x + MARK_OFFSET.x, middle);
    }
    if (!mark.hairpin || !next) return;
    const [from, to] = [mark.x + MARK_OFFSET.x + letters + 4, next.x - 3];
    if (to - from < 6) return;
    // The closed end is at the softer mark; the wedge follows the curve from one to the other.
    const opens = next.y <= mark.y;
    const [here, there] = [middle, next.y + MARK_OFFSET.y];
    for (const side of [-4, 4]) {
      context.beginPath();
      context.moveTo(from, here + (opens ? 0 : side));
      context.lineTo(to, there + (opens ? side : 0));
      context.stroke();
    }
  });
}
