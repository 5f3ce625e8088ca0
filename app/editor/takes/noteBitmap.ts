import { firstAtOrAfter } from '@ordle/core';
import { rgbOf } from '../colours';
import type { SeenNotes } from './takesScene';
import type { TakesWindow } from './takesGeometry';

let canvas: HTMLCanvasElement | null = null;
let image: ImageData | null = null;

/** A strip of notes to be painted: where it stands, and in which shade (0 to 1) at a tick. */
export interface NoteStrip {
  notes: SeenNotes;
  top: number;
  height: number;
  /** A #rrggbb colour. */
  colour: string;
  pitches: [number, number];
  shade(tick: number): number;
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
 * Paints the notes of many strips as pixels in one picture: thousands of cells cost one drawing then. `box` is the part of the canvas the picture
 * covers; notes of a pitch stand at its height within the strip.
 */
export function paintNoteBitmap(
  context: CanvasRenderingContext2D,
  strips: readonly NoteStrip[],
  box: { top: number; width: number; height: number },
  look: { pixelRatio: number; window: Pick<TakesWindow, 'tick' | 'ticksPerPixel'> },
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
      const pixel = ((Math.round(255 * strip.shade(notes.start[first])) << 24) | base) >>> 0;
      for (let line = Math.max(0, y); line < Math.min(height, y + thick); line++)
        pixels.fill(pixel, line * width + left, line * width + right);
    }
  }
  surface.putImageData(image, 0, 0);
  context.drawImage(canvas, 0, box.top, box.width, box.height);
}
