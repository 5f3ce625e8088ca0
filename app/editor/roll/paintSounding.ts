import type { ViewNotes } from '@ordle/core';
import { xOf, yOf } from './geometry';
import { noteHeight } from './paintMarks';
import type { Scene } from './scene';
import { visibleRows } from './visibleRows';

/** The notes that sound at a tick, by row. */
export function soundingRows(notes: ViewNotes, tick: number): number[] {
  const { first, end } = visibleRows(notes, tick, tick + 1e-6);
  const rows: number[] = [];
  for (let row = first; row < end; row++)
    if (notes.start[row] <= tick && notes.end[row] > tick) rows.push(row);
  return rows;
}

/** While music plays the notes that sound stand out of the others: full ink in a frame of paper and ink. */
export function paintSoundingNotes(context: CanvasRenderingContext2D, scene: Scene) {
  const { layout, window, colours, view, sounding } = scene;
  if (!view) return;
  for (const row of sounding) {
    const x = xOf(view.notes.start[row], window, layout);
    const width = Math.max(2, (view.notes.end[row] - view.notes.start[row]) / window.ticksPerPixel - 1);
    const y = yOf(view.notes.pitch[row], window, layout) + 0.5;
    const height = noteHeight(window.rowHeight);
    context.fillStyle = colours.ink;
    context.fillRect(x - 1.5, y - 1.5, width + 3, height + 3);
    context.fillStyle = colours.sheet;
    context.fillRect(x - 0.5, y - 0.5, width + 1, height + 1);
    context.fillStyle = colours.parts[scene.ink];
    context.fillRect(x + 0.5, y + 0.5, Math.max(1, width - 1), Math.max(1, height - 1));
  }
}

/** And so do their keys. */
export function paintSoundingKeys(context: CanvasRenderingContext2D, scene: Scene) {
  const { layout, window, colours, view, sounding, drums } = scene;
  if (!view) return;
  for (const row of sounding) {
    const pitch = view.notes.pitch[row];
    const y = yOf(pitch, window, layout);
    context.fillStyle = colours.parts[scene.ink];
    context.fillRect(0, y + 0.5, drums ? 5 : layout.gutter * 0.42, window.rowHeight - 1);
  }
}
