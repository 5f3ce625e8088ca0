import type { ViewNotes } from '@/engine/protocol';
import { rgbOf } from './colours';
import { rollHeight, rollTop, rollWidth, tickAt, xOf, yOf } from './geometry';
import type { Scene } from './scene';
import { visibleRows } from './visibleRows';

/** Past this many notes in sight they are painted as pixels: nobody can tell single ones apart. */
const MOST_SINGLE_NOTES = 1500;
/** Moves narrower than this many pixels get no outline. */
const LEAST_TRACE = 1.5;
/** Pixels a whisker has at least, however far the view is zoomed out. */
const LEAST_WHISKER = 5;
/** Moves under this are below what anybody hears (Friberg and Sundberg 1995 put it near 6 ms) and get no whisker. */
const MS_WORTH_A_WHISKER = 4;

/** Traces, whiskers and notes of the part. */
export function paintNotes(context: CanvasRenderingContext2D, scene: Scene) {
  const { layout, window, view } = scene;
  if (!view) return;
  context.save();
  context.beginPath();
  context.rect(layout.gutter, rollTop(layout), rollWidth(layout), rollHeight(layout));
  context.clip();
  const from = tickAt(layout.gutter, window, layout);
  const to = tickAt(layout.width, window, layout);
  const { first, end } = visibleRows(view.notes, from, to);
  if (end - first > MOST_SINGLE_NOTES) paintCrowd(context, scene, view.notes, first, end);
  else {
    if (view.traceStart) paintTraces(context, scene, first, end);
    paintSingly(context, scene, view.notes, first, end);
    if (view.traceStart) paintWhiskers(context, scene, first, end);
  }
  context.restore();
}

/** How strongly a note is inked for its velocity; never so faint that it is lost. */
function inkOf(velocity: number): number {
  return 0.4 + 0.6 * Math.min(1, velocity / 112);
}

function paintSingly(
  context: CanvasRenderingContext2D,
  scene: Scene,
  notes: ViewNotes,
  first: number,
  end: number,
) {
  const { layout, window, colours } = scene;
  const height = Math.max(2, window.rowHeight - (window.rowHeight > 6 ? 2 : 1));
  context.fillStyle = colours.parts[scene.ink];
  for (let row = first; row < end; row++) {
    const x = xOf(notes.start[row], window, layout);
    const width = Math.max(2, (notes.end[row] - notes.start[row]) / window.ticksPerPixel - 1);
    if (x + width < layout.gutter) continue;
    const y = yOf(notes.pitch[row], window, layout);
    context.globalAlpha = inkOf(notes.velocity[row]);
    context.fillRect(x, y + 0.5, width, height);
    context.globalAlpha = 1;
    // A firm left edge: where a note starts is what matters most here.
    context.fillRect(x, y + 0.5, Math.min(2, width), height);
    if (row === scene.hovered) {
      context.strokeStyle = colours.accent;
      context.lineWidth = 2;
      context.strokeRect(x - 1.5, y - 1, width + 3, height + 3);
    }
  }
}

/** Dashed outlines where notes came from. */
function paintTraces(context: CanvasRenderingContext2D, scene: Scene, first: number, end: number) {
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
function paintWhiskers(context: CanvasRenderingContext2D, scene: Scene, first: number, end: number) {
  const { layout, window, colours, view } = scene;
  if (!view?.traceStart || window.rowHeight < 5) return;
  const { notes } = view;
  const size = Math.min(5, Math.max(3, window.rowHeight / 3.5));
  const least = notes.length > 1 && end - first > 1200 ? Infinity : MS_WORTH_A_WHISKER;
  for (let row = first; row < end; row++) {
    const from = view.traceStart[row];
    const moved = notes.start[row] - from;
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

let crowdCanvas: HTMLCanvasElement | null = null;
let crowdImage: ImageData | null = null;

/** Very many notes: each colours its pixels in a picture one row a pitch, which is stretched over the roll. */
function paintCrowd(
  context: CanvasRenderingContext2D,
  scene: Scene,
  notes: ViewNotes,
  first: number,
  end: number,
) {
  const { layout, window } = scene;
  const width = Math.max(1, Math.round(rollWidth(layout) * scene.pixelRatio));
  crowdCanvas ??= document.createElement('canvas');
  if (crowdCanvas.width !== width || crowdCanvas.height !== 128 || !crowdImage) {
    crowdCanvas.width = width;
    crowdCanvas.height = 128;
    crowdImage = new ImageData(width, 128);
  }
  const pixels = new Uint32Array(crowdImage.data.buffer);
  pixels.fill(0);
  const [red, green, blue] = rgbOf(scene.colours.parts[scene.ink]);
  const base = (blue << 16) | (green << 8) | red;
  const scale = scene.pixelRatio / window.ticksPerPixel;
  for (let row = first; row < end; row++) {
    const from = Math.max(0, Math.floor((notes.start[row] - window.tick) * scale));
    const to = Math.min(width - 1, Math.floor((notes.end[row] - window.tick) * scale));
    const line = (127 - notes.pitch[row]) * width;
    const alpha = Math.round(255 * inkOf(notes.velocity[row]));
    const pixel = ((alpha << 24) | base) >>> 0;
    for (let x = line + from; x <= line + Math.max(from, to) && x < line + width; x++) pixels[x] = pixel;
  }
  const surface = crowdCanvas.getContext('2d');
  if (!surface) return;
  surface.putImageData(crowdImage, 0, 0);
  context.imageSmoothingEnabled = false;
  context.drawImage(
    crowdCanvas,
    0,
    0,
    width,
    128,
    layout.gutter,
    yOf(127, window, layout),
    rollWidth(layout),
    128 * window.rowHeight,
  );
}
