import { xOf, yOf } from './geometry';
import { noteHeight } from './paintMarks';
import type { Scene } from './scene';

/** Ends moved by less than this many pixels are not told. */
const LEAST_TRACE = 2;

/**
 * Where notes ended that are longer or shorter now: a dashed outline between the two ends. Where they began is told
 * by the marks under them.
 */
export function paintTraces(context: CanvasRenderingContext2D, scene: Scene, first: number, end: number) {
  const { layout, window, colours, view } = scene;
  if (!view?.traceStart || !view.traceEnd || end - first > 900 || window.rowHeight < 6) return;
  const { notes } = view;
  context.lineWidth = 1;
  context.strokeStyle = colours.ink2;
  context.setLineDash([3, 2]);
  for (let row = first; row < end; row++) {
    const was = view.traceEnd[row];
    const lengthened = notes.end[row] - notes.start[row] - (was - view.traceStart[row]);
    const moved = (was - notes.end[row]) / window.ticksPerPixel;
    if (Number.isNaN(was) || Math.abs(lengthened) / window.ticksPerPixel < LEAST_TRACE) continue;
    if (Math.abs(moved) < LEAST_TRACE) continue;
    const left = xOf(Math.min(was, notes.end[row]), window, layout);
    const y = yOf(notes.pitch[row], window, layout);
    context.strokeRect(left + 0.5, y + 1, Math.abs(moved) - 1, noteHeight(window.rowHeight) - 1);
  }
  context.setLineDash([]);
}

/** Doubles that were left out where the part was put together: dashed boxes, struck through. */
export function paintDropped(context: CanvasRenderingContext2D, { layout, window, colours, view }: Scene) {
  if (!view?.dropped || window.rowHeight < 4) return;
  const { start, end, pitch } = view.dropped;
  const height = noteHeight(window.rowHeight);
  context.lineWidth = 1;
  context.strokeStyle = colours.ink2;
  const to = window.tick + layout.width * window.ticksPerPixel;
  for (let row = 0; row < start.length; row++) {
    if (end[row] < window.tick || start[row] > to) continue;
    const x = xOf(start[row], window, layout);
    const y = yOf(pitch[row], window, layout) + 1.5;
    const width = Math.max(4, (end[row] - start[row]) / window.ticksPerPixel - 1);
    context.setLineDash([2, 2]);
    context.strokeRect(x + 0.5, y, width, height - 2);
    context.setLineDash([]);
    context.beginPath();
    context.moveTo(x + 0.5, y + height - 2);
    context.lineTo(x + 0.5 + Math.min(width, height), y);
    context.stroke();
  }
}
