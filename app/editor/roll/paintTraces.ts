import { xOf, yOf } from './geometry';
import type { Scene } from './scene';

/** Moves narrower than this many pixels get no outline. */
const LEAST_TRACE = 1.5;
/** Pixels a whisker has at least, however far the view is zoomed out. */
const LEAST_WHISKER = 5;
/** Moves under this are below what anybody hears (Friberg and Sundberg 1995 put it near 6 ms) and get no whisker. */
const MS_WORTH_A_WHISKER = 4;

/** Dashed outlines where notes came from. */
export function paintTraces(context: CanvasRenderingContext2D, scene: Scene, first: number, end: number) {
  const { layout, window, colours, view } = scene;
  if (!view?.traceStart || !view.traceEnd || end - first > 900 || window.rowHeight < 6) return;
  const { notes } = view;
  context.lineWidth = 1;
  context.strokeStyle = colours.ink2;
  context.setLineDash([3, 2]);
  for (let row = first; row < end; row++) {
    const from = view.traceStart[row];
    const moved = Math.abs(notes.start[row] - from) / window.ticksPerPixel;
    const movedEnd = Math.abs(notes.end[row] - view.traceEnd[row]) / window.ticksPerPixel;
    if (Number.isNaN(from) || Math.max(moved, movedEnd) < LEAST_TRACE) continue;
    const y = yOf(notes.pitch[row], window, layout);
    const width = Math.max(2, (view.traceEnd[row] - from) / window.ticksPerPixel - 1);
    context.strokeRect(xOf(from, window, layout) + 0.5, y + 1, width, window.rowHeight - 3);
  }
  context.setLineDash([]);
}

/**
 * From where a note was to where it starts: a bar at the far end for what was early, an arrow head for what was late, so that the
 * direction is told by shape as well as by colour. Over the notes, on a pale edge, and never too short to be seen.
 */
export function paintWhiskers(context: CanvasRenderingContext2D, scene: Scene, first: number, end: number) {
  const { layout, window, colours, view } = scene;
  if (!view?.traceStart || window.rowHeight < 5) return;
  const { notes } = view;
  const size = Math.min(5, Math.max(3, window.rowHeight / 3.5));
  const least = notes.length > 1 && end - first > 1200 ? Infinity : MS_WORTH_A_WHISKER;
  for (let row = first; row < end; row++) {
    const from = view.traceStart[row];
    const moved = notes.start[row] - from;
    if (scene.preview && scene.selected[row]) continue;
    if (Number.isNaN(from) || Math.abs(moved) < least * scene.ticksPerMs) continue;
    const length = Math.max(LEAST_WHISKER, Math.abs(moved) / window.ticksPerPixel);
    const tip = xOf(notes.start[row], window, layout);
    const middle = Math.round(yOf(notes.pitch[row], window, layout) + window.rowHeight / 2) - 0.5;
    const path = moved < 0 ? lateWhisker(tip, length, middle, size) : earlyWhisker(tip, length, middle, size);
    context.lineJoin = 'round';
    context.strokeStyle = colours.sheet;
    context.lineWidth = 4;
    context.stroke(path);
    context.strokeStyle = context.fillStyle = moved < 0 ? colours.late : colours.early;
    context.lineWidth = 1.6;
    context.stroke(path);
    if (moved < 0) context.fill(path);
  }
}

/** Points left: the note was late and went back. */
function lateWhisker(tip: number, length: number, middle: number, size: number): Path2D {
  const path = new Path2D();
  path.moveTo(tip + size, middle);
  path.lineTo(tip + Math.max(length, size), middle);
  path.moveTo(tip, middle);
  path.lineTo(tip + size, middle - size * 0.8);
  path.lineTo(tip + size, middle + size * 0.8);
  path.closePath();
  return path;
}

/** A bar where the note was, and a line to where it went. */
function earlyWhisker(tip: number, length: number, middle: number, size: number): Path2D {
  const path = new Path2D();
  path.moveTo(tip - length, middle - size);
  path.lineTo(tip - length, middle + size);
  path.moveTo(tip - length, middle);
  path.lineTo(tip, middle);
  return path;
}
