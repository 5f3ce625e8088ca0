import { xOf, yOf } from './geometry';
import type { Scene } from './scene';

/** At an align step: a mark at the stroke each note is pulled toward, joined to where the note came from. */
export function paintStrokes(context: CanvasRenderingContext2D, scene: Scene, first: number, end: number) {
  const { layout, window, colours, view } = scene;
  if (!view?.pulledTo || !view.traceStart || window.rowHeight < 5 || end - first > 900) return;
  context.strokeStyle = colours.ink;
  context.lineWidth = 1.5;
  context.beginPath();
  for (let row = first; row < end; row++) {
    const stroke = view.pulledTo[row];
    if (Number.isNaN(stroke)) continue;
    const x = xOf(stroke, window, layout);
    const top = yOf(view.notes.pitch[row], window, layout);
    const low = top + window.rowHeight;
    // A stroke is a short line with a foot, taller than the note, so that it shows also where note and stroke meet.
    context.moveTo(x, top - 3);
    context.lineTo(x, low + 3);
    context.moveTo(x - 3, low + 3);
    context.lineTo(x + 3, low + 3);
    context.moveTo(xOf(view.traceStart[row], window, layout), low + 3);
    context.lineTo(x, low + 3);
  }
  context.stroke();
}
