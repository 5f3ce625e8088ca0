import type { ViewNotes } from '@ordle/core';
import { rollHeight, rollTop, rollWidth, tickAt, xOf, yOf } from './geometry';
import { inkOf } from './inkOf';
import { paintLit } from './paintSpans';
import { paintCrowd } from './paintCrowd';
import { paintChange } from './paintDragged';
import { paintSoundingNotes } from './paintSounding';
import { paintStrokes } from './paintStrokes';
import { MOST_MARKED, areFewSelected, noteHeight, paintMarks } from './paintMarks';
import { paintDropped, paintTraces } from './paintTraces';
import type { OtherPart, Scene } from './scene';
import { GRIP } from './stretchGesture';
import { visibleRows } from './visibleRows';

/** Past this many notes in sight they are painted as pixels: nobody can tell single ones apart. */
const MOST_SINGLE_NOTES = MOST_MARKED;

/** Traces and notes of the part. */
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
  // Notes far outside may be stretched into sight.
  const span = scene.preview?.kind === 'stretch' ? scene.selectionSpan : null;
  const { first, end } = visibleRows(
    view.notes,
    Math.min(from - slack, span?.from ?? Infinity),
    Math.max(to + slack, span?.to ?? -Infinity),
  );
  const traces = view.traceStart !== null && scene.show !== 'cleaned';
  if (end - first > MOST_SINGLE_NOTES) {
    paintCrowd(context, scene, view.notes, first, end, scene.ink, 1);
    paintSelected(context, scene, view.notes, first, end);
  } else {
    if (traces) paintTraces(context, scene, first, end);
    paintRings(context, scene, first, end);
    paintSingly(context, scene, view.notes, first, end);
    if (traces) paintMarks(context, scene, first, end);
    paintStrokes(context, scene, first, end);
    if (scene.show !== 'cleaned') paintDropped(context, scene);
  }
  context.restore();
}

/** How far the pedal lets notes ring on: a pale bar behind each from its end. */
function paintRings(context: CanvasRenderingContext2D, scene: Scene, first: number, end: number) {
  const { view, window, layout, colours } = scene;
  if (!view?.rings || window.rowHeight < 5) return;
  context.fillStyle = colours.parts[scene.ink];
  context.globalAlpha = 0.22;
  for (let row = first; row < end; row++) {
    const length = (view.rings[row] - view.notes.end[row]) / window.ticksPerPixel;
    if (length < 2) continue;
    const y = yOf(view.notes.pitch[row], window, layout) + window.rowHeight / 2 - 1.5;
    context.fillRect(xOf(view.notes.end[row], window, layout), y, length, 3);
  }
  context.globalAlpha = 1;
}

/** Of full ink, so that other parts are told from the active one and still stand out from the paper. */
const OTHERS_ALPHA = 0.78;

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
  const selected = scene.othersSelected.get(other.partId);
  const move = scene.preview?.kind === 'move' && !scene.preview.copy ? scene.preview : null;
  const height = Math.max(2, window.rowHeight * 0.56);
  for (let row = first; row < end; row++) {
    const width = Math.max(2, (notes.end[row] - notes.start[row]) / window.ticksPerPixel - 1);
    const isSelected = selected?.[row] === 1;
    const [ticks, semitones] = isSelected && move ? [move.ticks, move.semitones] : [0, 0];
    const x = xOf(notes.start[row] + ticks, window, layout);
    const y = yOf(notes.pitch[row] + semitones, window, layout) + window.rowHeight * 0.22;
    if (isSelected) paintRing(context, scene, x, y, width, height);
    context.fillStyle = colours.parts[other.ink];
    context.globalAlpha = isSelected ? 1 : OTHERS_ALPHA;
    context.fillRect(x, y, width, height);
    context.globalAlpha = 1;
  }
}

/** In a crowd the selected notes are drawn over it, as far as there are not too many of them. */
function paintSelected(
  context: CanvasRenderingContext2D,
  scene: Scene,
  notes: ViewNotes,
  first: number,
  end: number,
) {
  const { window, layout, colours, selected } = scene;
  context.fillStyle = colours.ink;
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

function paintSingly(
  context: CanvasRenderingContext2D,
  scene: Scene,
  notes: ViewNotes,
  first: number,
  end: number,
) {
  const { layout, window, colours, selected, preview } = scene;
  const height = noteHeight(window.rowHeight);
  const ink = colours.parts[scene.ink];
  const erased = preview?.kind === 'erase' ? preview.rows : null;
  const isFew = areFewSelected(selected, first, end);
  const ghosts = preview !== null && isFew;
  for (let row = first; row < end; row++) {
    let [start, finish, pitch] = [notes.start[row], notes.end[row], notes.pitch[row]];
    const isSelected = selected[row] === 1;
    if (isSelected && preview?.kind === 'move' && !preview.copy) {
      start += preview.ticks;
      finish += preview.ticks;
      pitch += preview.semitones;
    } else if (isSelected && preview?.kind === 'trim') {
      if (preview.edge === 'start') start = Math.min(finish - 1, Math.max(0, start + preview.ticks));
      else finish = Math.max(start + 1, finish + preview.ticks);
    } else if (isSelected && preview?.kind === 'stretch') {
      start = preview.anchor + preview.factor * (start - preview.anchor);
      finish = preview.anchor + preview.factor * (finish - preview.anchor);
    }
    const x = xOf(start, window, layout);
    const width = Math.max(2, (finish - start) / window.ticksPerPixel - 1);
    if (isSelected && ghosts) paintGhost(context, scene, notes, row);
    if (x + width < layout.gutter) continue;
    const y = yOf(pitch, window, layout);
    if (isSelected && isFew) paintRing(context, scene, x, y + 0.5, width, height);
    else if (isSelected && !erased) {
      // One box a note, with its frame of ink: each costs every frame of a drag.
      context.fillStyle = colours.ink;
      context.fillRect(x - 1.5, y - 1, width + 3, height + 3);
      context.fillStyle = ink;
      context.fillRect(x, y + 0.5, width, height);
      continue;
    }
    context.fillStyle = ink;
    context.globalAlpha = erased?.has(row) ? 0.15 : inkOf(notes.velocity[row]);
    context.fillRect(x, y + 0.5, width, height);
    context.globalAlpha = erased?.has(row) ? 0.3 : 1;
    // A firm left edge: where a note starts is what matters most here.
    context.fillRect(x, y + 0.5, Math.min(2, width), height);
    context.globalAlpha = 1;
  }
}

/** Where a note that is being moved or trimmed stands so far. */
function paintGhost(context: CanvasRenderingContext2D, scene: Scene, notes: ViewNotes, row: number) {
  const { layout, window, colours } = scene;
  const width = Math.max(2, (notes.end[row] - notes.start[row]) / window.ticksPerPixel - 1);
  context.globalAlpha = 1;
  context.lineWidth = 1;
  context.strokeStyle = colours.ink3;
  context.setLineDash([2, 2]);
  context.strokeRect(
    xOf(notes.start[row], window, layout) + 0.5,
    yOf(notes.pitch[row], window, layout) + 1,
    width,
    noteHeight(window.rowHeight),
  );
  context.setLineDash([]);
}

/** Behind a selected note: a ring of ink with a gap of paper, so that it is told from the note whatever its colour. */
function paintRing(
  context: CanvasRenderingContext2D,
  { colours }: Scene,
  x: number,
  y: number,
  width: number,
  height: number,
) {
  context.fillStyle = colours.ink;
  context.fillRect(x - 3, y - 3, width + 6, height + 6);
  context.fillStyle = colours.sheet;
  context.fillRect(x - 1.5, y - 1.5, width + 3, height + 3);
}

/**
 * What changes while nothing else does: the note under the pointer, the one the keyboard stands on, and what a
 * gesture would add.
 */
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
    context.strokeRect(x - room, y - room + 0.5, width + 2 * room, noteHeight(window.rowHeight) + 2 * room);
  };
  paintLit(context, scene);
  paintSoundingNotes(context, scene);
  if (hovered >= 0) outline(hovered, 1);
  context.setLineDash([2, 2]);
  if (focused >= 0 && scene.preview === null) outline(focused, 4.5);
  context.setLineDash([]);
  paintGrip(context, scene);
  paintPreview(context, scene);
  paintChange(context, scene);
  context.restore();
}

/** At the end of the selected notes: a line with a grip that stretches them. */
function paintGrip(context: CanvasRenderingContext2D, scene: Scene) {
  const { selectionSpan: span, preview, layout, window, colours } = scene;
  if (!span || (preview && preview.kind !== 'stretch')) return;
  const factor = preview?.kind === 'stretch' ? preview.factor : 1;
  const x = Math.round(xOf(span.from + factor * (span.to - span.from), window, layout));
  const top = rollTop(layout);
  context.fillStyle = colours.ink;
  context.fillRect(x, top, 1, rollHeight(layout));
  context.fillRect(x - GRIP.width / 2, top, GRIP.width, GRIP.height);
  context.fillStyle = colours.sheet;
  for (const bar of [-2, 1]) context.fillRect(x + bar, top + 5, 1, GRIP.height - 10);
  if (!preview) return;
  const words = `× ${Number(factor.toFixed(3))}`;
  context.font = `600 ${colours.letters}`;
  context.textBaseline = 'middle';
  const width = context.measureText(words).width + 8;
  context.fillStyle = colours.sheet;
  context.fillRect(x + 8, top + 2, width, 17);
  context.fillStyle = colours.ink;
  context.fillText(words, x + 12, top + 11);
}

/** What the gesture under way would add: a drawn note, copies, or the box that selects. */
function paintPreview(context: CanvasRenderingContext2D, scene: Scene) {
  const { layout, window, colours, preview, view } = scene;
  if (!preview || !view) return;
  const block = (start: number, end: number, pitch: number) =>
    context.fillRect(
      xOf(start, window, layout),
      yOf(pitch, window, layout) + 0.5,
      Math.max(2, (end - start) / window.ticksPerPixel - 1),
      noteHeight(window.rowHeight),
    );
  context.fillStyle = colours.parts[scene.ink];
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
    context.fillStyle = colours.ink;
    context.globalAlpha = 0.08;
    context.fillRect(preview.left, preview.top, width, height);
    context.globalAlpha = 1;
    context.strokeStyle = colours.ink;
    context.lineWidth = 1;
    context.strokeRect(preview.left + 0.5, preview.top + 0.5, width, height);
  }
}
