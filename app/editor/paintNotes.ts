import type { ViewNotes } from '@/engine/protocol';
import { rgbOf } from './colours';
import { rollHeight, rollTop, rollWidth, tickAt, xOf, yOf } from './geometry';
import type { OtherPart, Scene } from './scene';
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
  for (const other of scene.others) paintOther(context, scene, other, from, to);
  const slack = scene.preview?.kind === 'move' ? Math.abs(scene.preview.ticks) : 0;
  const { first, end } = visibleRows(view.notes, from - slack, to + slack);
  const traces = view.traceStart !== null && scene.show !== 'cleaned';
  if (end - first > MOST_SINGLE_NOTES) {
    paintCrowd(context, scene, view.notes, first, end, scene.ink, 1);
    paintChosen(context, scene, view.notes, first, end);
  } else {
    if (traces) paintTraces(context, scene, first, end);
    if (scene.show !== 'played' || !view.traceStart) {
      paintSingly(context, scene, view.notes, first, end);
      if (traces) paintWhiskers(context, scene, first, end);
    } else paintPlayed(context, scene, first, end);
  }
  context.restore();
}

/** A part that is only shown along: its notes, quietly, in its own ink. */
function paintOther(
  context: CanvasRenderingContext2D,
  scene: Scene,
  other: OtherPart,
  from: number,
  to: number,
) {
  const { window, layout, colours } = scene;
  const { notes } = other.view;
  const { first, end } = visibleRows(notes, from, to);
  if (end - first > MOST_SINGLE_NOTES) {
    paintCrowd(context, scene, notes, first, end, other.ink, 0.4);
    return;
  }
  context.fillStyle = colours.parts[other.ink];
  context.globalAlpha = 0.38;
  for (let row = first; row < end; row++) {
    const width = Math.max(2, (notes.end[row] - notes.start[row]) / window.ticksPerPixel - 1);
    context.fillRect(
      xOf(notes.start[row], window, layout),
      yOf(notes.pitch[row], window, layout) + window.rowHeight * 0.22,
      width,
      Math.max(2, window.rowHeight * 0.56),
    );
  }
  context.globalAlpha = 1;
}

/** Only as played: the notes where their traces are. */
function paintPlayed(context: CanvasRenderingContext2D, scene: Scene, first: number, end: number) {
  const { layout, window, colours, view } = scene;
  if (!view?.traceStart || !view.traceEnd) return;
  context.fillStyle = colours.parts[scene.ink];
  for (let row = first; row < end; row++) {
    const start = view.traceStart[row];
    if (Number.isNaN(start)) continue;
    context.globalAlpha = inkOf(view.notes.velocity[row]);
    const width = Math.max(2, (view.traceEnd[row] - start) / window.ticksPerPixel - 1);
    context.fillRect(
      xOf(start, window, layout),
      yOf(view.notes.pitch[row], window, layout) + 0.5,
      width,
      Math.max(2, window.rowHeight - 2),
    );
  }
  context.globalAlpha = 1;
}

/** In a crowd the chosen notes are drawn over it, as far as there are not too many of them. */
function paintChosen(
  context: CanvasRenderingContext2D,
  scene: Scene,
  notes: ViewNotes,
  first: number,
  end: number,
) {
  const { window, layout, colours, selected } = scene;
  context.fillStyle = colours.accent;
  let left = 4000;
  for (let row = first; row < end && left > 0; row++) {
    if (selected[row] === 0) continue;
    left--;
    const width = Math.max(1.5, (notes.end[row] - notes.start[row]) / window.ticksPerPixel);
    context.fillRect(
      xOf(notes.start[row], window, layout),
      yOf(notes.pitch[row], window, layout),
      width,
      Math.max(2, window.rowHeight - 1),
    );
  }
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
  const { layout, window, colours, selected, preview } = scene;
  const height = Math.max(2, window.rowHeight - (window.rowHeight > 6 ? 2 : 1));
  const ink = colours.parts[scene.ink];
  const erased = preview?.kind === 'erase' ? preview.rows : null;
  for (let row = first; row < end; row++) {
    let [start, finish, pitch] = [notes.start[row], notes.end[row], notes.pitch[row]];
    const chosen = selected[row] === 1;
    if (chosen && preview?.kind === 'move' && !preview.copy) {
      start += preview.ticks;
      finish += preview.ticks;
      pitch += preview.semitones;
    } else if (chosen && preview?.kind === 'trim') {
      if (preview.edge === 'start') start = Math.min(finish - 1, Math.max(0, start + preview.ticks));
      else finish = Math.max(start + 1, finish + preview.ticks);
    }
    const x = xOf(start, window, layout);
    const width = Math.max(2, (finish - start) / window.ticksPerPixel - 1);
    if (x + width < layout.gutter) continue;
    const y = yOf(pitch, window, layout);
    context.fillStyle = ink;
    context.globalAlpha = erased?.has(row) ? 0.15 : inkOf(notes.velocity[row]);
    context.fillRect(x, y + 0.5, width, height);
    context.globalAlpha = erased?.has(row) ? 0.3 : 1;
    // A firm left edge: where a note starts is what matters most here.
    context.fillRect(x, y + 0.5, Math.min(2, width), height);
    context.globalAlpha = 1;
    if (!chosen) continue;
    context.strokeStyle = colours.accent;
    context.lineWidth = 2;
    context.strokeRect(x - 1, y - 0.5, width + 2, height + 2);
  }
}

/** What changes while nothing else does: the note under the pointer, the one the keyboard stands on, and what a gesture would add. */
export function paintOverlay(context: CanvasRenderingContext2D, scene: Scene) {
  const { layout, window, colours, view, hovered, focused } = scene;
  if (!view) return;
  context.save();
  context.beginPath();
  context.rect(layout.gutter, rollTop(layout), rollWidth(layout), rollHeight(layout));
  context.clip();
  const outline = (row: number, room: number) => {
    const x = xOf(view.notes.start[row], window, layout);
    const width = Math.max(2, (view.notes.end[row] - view.notes.start[row]) / window.ticksPerPixel - 1);
    const y = yOf(view.notes.pitch[row], window, layout);
    context.strokeStyle = colours.ink;
    context.lineWidth = 1;
    context.strokeRect(
      x - room,
      y - room + 0.5,
      width + 2 * room,
      Math.max(2, window.rowHeight - 2) + 2 * room,
    );
  };
  if (hovered >= 0) outline(hovered, 1);
  if (focused >= 0 && scene.preview === null) outline(focused, 3.5);
  paintPreview(context, scene);
  context.restore();
}

/** What the gesture under way would add: a drawn note, copies, or the box that chooses. */
function paintPreview(context: CanvasRenderingContext2D, scene: Scene) {
  const { layout, window, colours, preview, view } = scene;
  if (!preview || !view) return;
  const block = (start: number, end: number, pitch: number) =>
    context.fillRect(
      xOf(start, window, layout),
      yOf(pitch, window, layout) + 0.5,
      Math.max(2, (end - start) / window.ticksPerPixel - 1),
      Math.max(2, window.rowHeight - 2),
    );
  context.fillStyle = colours.accent;
  if (preview.kind === 'draw') block(preview.start, preview.end, preview.pitch);
  else if (preview.kind === 'move' && preview.copy) {
    context.globalAlpha = 0.7;
    for (let row = 0; row < view.notes.length; row++) {
      if (scene.selected[row])
        block(
          view.notes.start[row] + preview.ticks,
          view.notes.end[row] + preview.ticks,
          view.notes.pitch[row] + preview.semitones,
        );
    }
    context.globalAlpha = 1;
  } else if (preview.kind === 'marquee') {
    const [width, height] = [preview.right - preview.left, preview.bottom - preview.top];
    context.globalAlpha = 0.12;
    context.fillRect(preview.left, preview.top, width, height);
    context.globalAlpha = 1;
    context.strokeStyle = colours.accent;
    context.lineWidth = 1;
    context.strokeRect(preview.left + 0.5, preview.top + 0.5, width, height);
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

let crowdCanvas: HTMLCanvasElement | null = null;
let crowdImage: ImageData | null = null;

/** Very many notes: each colours its pixels in a picture one row a pitch, which is stretched over the roll. */
function paintCrowd(
  context: CanvasRenderingContext2D,
  scene: Scene,
  notes: ViewNotes,
  first: number,
  end: number,
  ink: number,
  strength: number,
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
  const [red, green, blue] = rgbOf(scene.colours.parts[ink]);
  const base = (blue << 16) | (green << 8) | red;
  // The pixel of every velocity, made once: this loop runs for every note in sight.
  const inks = Uint32Array.from(
    { length: 128 },
    (_, velocity) => ((Math.round(255 * strength * inkOf(velocity)) << 24) | base) >>> 0,
  );
  const scale = scene.pixelRatio / window.ticksPerPixel;
  const origin = window.tick;
  const { start, end: finish, pitch, velocity } = notes;
  const last = width - 1;
  for (let row = first; row < end; row++) {
    const left = (start[row] - origin) * scale;
    const right = (finish[row] - origin) * scale;
    if (right < 0 || left > last) continue;
    const line = (127 - pitch[row]) * width;
    const to = line + (right > last ? last : right | 0);
    const pixel = inks[velocity[row] & 127];
    for (let x = line + (left < 0 ? 0 : left | 0); x <= to; x++) pixels[x] = pixel;
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
