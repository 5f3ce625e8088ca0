import { xOf, yOf } from './geometry';
import { noteHeight } from './paintMarks';
import type { Scene } from './scene';

/** Ends moved by less than this many pixels are not told. */
const LEAST_TRACE = 2;

/** Where notes ended that are longer or shorter now: a dashed outline between the two ends. Where they began is told by the marks under them. */
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
