import { rollWidth, tickAt, xOf, yOf } from './geometry';
import type { Scene } from './scene';
import { visibleRows } from './visibleRows';

/** Marks narrower than this many pixels are not painted: the ruler tells of them. */
const LEAST_MARK = 2;
/** Rows lower than this have no room for a band under their notes. */
const LEAST_ROW = 9;
/** Height of the band under a note, in which its mark lies, and of the gap above it. */
const BAND = 3;
const GAP = 1;

/** How high the notes of a row are: under each lies the band for its mark, where there is room for one. */
export function noteHeight(rowHeight: number): number {
  if (rowHeight >= LEAST_ROW) return rowHeight - 2 - BAND - GAP + 1;
  return Math.max(2, rowHeight - (rowHeight > 6 ? 2 : 1));
}

/**
 * By how many pixels a note was moved, from where it stands to where it was: above 0 it was late. NaN where it was
 * nowhere, or a gesture holds it.
 */
function shiftOf(scene: Scene, row: number): number {
  const { view, window, preview, selected } = scene;
  if (!view?.traceStart || (preview && selected[row] === 1)) return NaN;
  return (view.traceStart[row] - view.notes.start[row]) / window.ticksPerPixel;
}

/**
 * In a band under each note, true to scale: a line from its start to where it was. Its end is a square for what was
 * late and a ring for what was early, so that the direction is told by side, shape and colour.
 */
export function paintMarks(context: CanvasRenderingContext2D, scene: Scene, first: number, end: number) {
  const { layout, window, colours, view } = scene;
  if (!view?.traceStart || window.rowHeight < LEAST_ROW) return;
  const { notes } = view;
  for (let row = first; row < end; row++) {
    const shift = shiftOf(scene, row);
    if (Number.isNaN(shift) || Math.abs(shift) < LEAST_MARK) continue;
    const x = xOf(notes.start[row], window, layout);
    const top = yOf(notes.pitch[row], window, layout) + 0.5 + noteHeight(window.rowHeight) + GAP;
    const middle = top + BAND / 2;
    context.fillStyle = context.strokeStyle = shift > 0 ? colours.late : colours.early;
    if (shift > 0) {
      context.fillRect(x, middle - 0.75, shift, 1.5);
      context.fillRect(x + shift - Math.min(BAND, shift), top, Math.min(BAND, shift), BAND);
    } else {
      const radius = Math.min(1.75, -shift / 2);
      context.fillRect(x + shift + 2 * radius, middle - 0.75, Math.max(0, -shift - 2 * radius), 1.5);
      context.lineWidth = 1.25;
      context.beginPath();
      context.arc(x + shift + radius, middle, radius, 0, 2 * Math.PI);
      context.stroke();
    }
  }
}

/** Pixels of a column of the heat band, and the move in ms that fills it. */
const COLUMN = 4;
const FULL_MS = 40;

/**
 * At the foot of the ruler: how far the notes were moved that are too small or too many to bear a mark, the most late
 * above the line and the most early below it, the darker the farther.
 */
export function paintHeat(context: CanvasRenderingContext2D, scene: Scene) {
  const { layout, window, colours, view, ticksPerMs } = scene;
  if (!view?.traceStart || scene.show === 'cleaned') return;
  const { notes } = view;
  const count = Math.ceil(rollWidth(layout) / COLUMN);
  const [late, early] = [new Float32Array(count), new Float32Array(count)];
  const { first, end } = visibleRows(notes, window.tick, tickAt(layout.width, window, layout));
  const bearsMarks = window.rowHeight >= LEAST_ROW && end - first <= MOST_MARKED;
  for (let row = first; row < end; row++) {
    const moved = view.traceStart[row] - notes.start[row];
    if (Number.isNaN(moved) || (bearsMarks && Math.abs(moved) / window.ticksPerPixel >= LEAST_MARK)) continue;
    const column = Math.floor((notes.start[row] - window.tick) / window.ticksPerPixel / COLUMN);
    if (column < 0 || column >= count) continue;
    if (moved > late[column]) late[column] = moved;
    else if (-moved > early[column]) early[column] = -moved;
  }
  const foot = layout.overview + layout.ruler - 1;
  const paint = (moved: Float32Array, colour: string, top: number) => {
    context.fillStyle = colour;
    for (let column = 0; column < count; column++) {
      const ms = moved[column] / ticksPerMs;
      if (ms < 1) continue;
      context.globalAlpha = Math.min(1, 0.75 + (0.25 * ms) / FULL_MS);
      context.fillRect(layout.gutter + column * COLUMN, top, COLUMN, 2);
    }
    context.globalAlpha = 1;
  };
  paint(late, colours.late, foot - 4);
  paint(early, colours.early, foot - 2);
}

/** With more notes in sight none bears a mark. */
export const MOST_MARKED = 1500;

/**
 * More selected notes in sight leave no ghosts and have plain frames: single ones are not looked at then, and each
 * costs every frame of a drag.
 */
const MOST_WITH_CARE = 200;

export function areFewSelected(selected: Uint8Array, first: number, end: number): boolean {
  let count = 0;
  for (let row = first; row < end; row++) count += selected[row];
  return count <= MOST_WITH_CARE;
}
