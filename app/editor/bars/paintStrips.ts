import { firstAtOrAfter } from '@ordle/core';
import { rgbOf } from '../colours';
import type { SeenNotes } from './barsScene';
import type { TimeWindow } from './barsGeometry';

let canvas: HTMLCanvasElement | null = null;
let image: ImageData | null = null;

/** A strip of notes to be painted: where it stands, and which of them are full; the others are outlines on paper. */
export interface NoteStrip {
  notes: SeenNotes;
  top: number;
  height: number;
  /** A #rrggbb colour. */
  colour: string;
  pitches: [number, number];
  isFull(tick: number): boolean;
  /** The colour of the paper, #rrggbb. */
  paper: string;
}

/** The longest note of some, so that those reaching in from the left are found. */
const longest = new WeakMap<SeenNotes, number>();

function longestOf(notes: SeenNotes): number {
  const known = longest.get(notes);
  if (known !== undefined) return known;
  let most = 0;
  for (let row = 0; row < notes.start.length; row++) most = Math.max(most, notes.end[row] - notes.start[row]);
  longest.set(notes, most);
  return most;
}

/**
 * Up to so many notes are painted as boxes; more as pixels of one picture, which costs the same however many they
 * are.
 */
const MOST_BOXES = 4000;

/** The part of the canvas the strips lie in, from its left edge on. */
interface StripsBox {
  top: number;
  width: number;
  height: number;
}

interface StripsLook {
  pixelRatio: number;
  window: TimeWindow;
}

/**
 * Paints the notes of many strips; those of a pitch stand at its height within the strip. What lies outside of `box`
 * is to be clipped by the caller.
 */
export function paintStrips(
  context: CanvasRenderingContext2D,
  strips: readonly NoteStrip[],
  box: StripsBox,
  look: StripsLook,
) {
  const { window } = look;
  const until = window.tick + box.width * window.ticksPerPixel;
  const count = strips.reduce(
    (sum, { notes }) => sum + firstAtOrAfter(notes.start, until) - firstAtOrAfter(notes.start, window.tick),
    0,
  );
  if (count > MOST_BOXES) paintPixels(context, strips, box, look);
  else for (const strip of strips) paintBoxes(context, strip, box, look);
}

function paintBoxes(
  context: CanvasRenderingContext2D,
  { notes, top, height, colour, paper, pitches, isFull }: NoteStrip,
  { width }: StripsBox,
  { window }: StripsLook,
) {
  const step = height / Math.max(1, pitches[1] - pitches[0] + 1);
  const thick = Math.max(1, Math.min(3, Math.round(step)));
  // An outline has paper within it: where there is no room for that it is a thin line.
  const open = Math.max(1, Math.min(5, Math.round(step)));
  const until = window.tick + width * window.ticksPerPixel;
  context.fillStyle = colour;
  const { start, end, pitch } = notes;
  for (
    let row = firstAtOrAfter(start, window.tick - longestOf(notes));
    row < start.length && start[row] < until;
    row++
  ) {
    const left = Math.max(0, Math.round((start[row] - window.tick) / window.ticksPerPixel));
    const right = Math.max(left + 1, Math.round((end[row] - window.tick) / window.ticksPerPixel));
    if (end[row] <= window.tick) continue;
    const y = Math.round(top + (pitches[1] - pitch[row]) * step);
    const wide = Math.min(width, right) - left;
    if (isFull(start[row])) context.fillRect(left, y, wide, thick);
    else if (open < 3 || wide < 4) context.fillRect(left, y, wide, 1);
    else {
      context.fillRect(left, y, wide, open);
      context.fillStyle = paper;
      context.fillRect(left + 1, y + 1, wide - 2, open - 2);
      context.fillStyle = colour;
    }
  }
}

function paintPixels(
  context: CanvasRenderingContext2D,
  strips: readonly NoteStrip[],
  box: StripsBox,
  look: StripsLook,
) {
  const { pixelRatio: ratio, window } = look;
  const [width, height] = [Math.round(box.width * ratio), Math.round(box.height * ratio)];
  if (width < 1 || height < 1) return;
  canvas ??= document.createElement('canvas');
  if (!image || canvas.width !== width || canvas.height !== height) {
    [canvas.width, canvas.height] = [width, height];
    image = new ImageData(width, height);
  }
  const surface = canvas.getContext('2d');
  if (!surface) return;
  const pixels = new Uint32Array(image.data.buffer);
  pixels.fill(0);
  const scale = ratio / window.ticksPerPixel;
  const until = window.tick + box.width * window.ticksPerPixel;
  for (const strip of strips) {
    const { notes, pitches } = strip;
    const [red, green, blue] = rgbOf(strip.colour);
    const base = (blue << 16) | (green << 8) | red;
    const span = Math.max(1, pitches[1] - pitches[0] + 1);
    const top = (strip.top - box.top) * ratio;
    const step = (strip.height * ratio) / span;
    const thick = Math.max(1, Math.min(Math.round(3 * ratio), Math.round(step)));
    let first = firstAtOrAfter(notes.start, window.tick - longestOf(notes));
    for (; first < notes.start.length && notes.start[first] < until; first++) {
      const left = Math.max(0, Math.round((notes.start[first] - window.tick) * scale));
      const right = Math.min(
        width,
        Math.max(left + ratio, Math.round((notes.end[first] - window.tick) * scale)),
      );
      if (right <= left) continue;
      const y = Math.round(top + (pitches[1] - notes.pitch[first]) * step);
      const pixel = ((255 << 24) | base) >>> 0;
      const high = strip.isFull(notes.start[first]) ? thick : 1;
      for (let line = Math.max(0, y); line < Math.min(height, y + high); line++)
        pixels.fill(pixel, line * width + left, line * width + right);
    }
  }
  surface.putImageData(image, 0, 0);
  context.drawImage(canvas, 0, box.top, box.width, box.height);
}
