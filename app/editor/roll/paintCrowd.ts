import type { ViewNotes } from '@ordle/core';
import { rgbOf } from '../colours';
import { rollWidth, rowHeightOf, yOf } from './geometry';
import { inkOf } from './inkOf';
import { BLOCK, blocksOf } from './noteBlocks';
import type { Scene } from './scene';

let crowdCanvas: HTMLCanvasElement | null = null;
let crowdImage: ImageData | null = null;

/** Very many notes: each colours its pixels in a picture one row a pitch, which is stretched over the roll. */
export function paintCrowd(
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
  const blocks = blocksOf(notes);
  for (let row = first; row < end; row++) {
    if (row % BLOCK === 0 && row + BLOCK <= end) {
      const block = row / BLOCK;
      const pixel = ((start[row] - origin) * scale) | 0;
      // All that the block holds lies in one pixel: only which pitches matters.
      if (pixel >= 0 && pixel <= last && (((blocks.lastEnd[block] - origin) * scale) | 0) === pixel) {
        const shade = inks[blocks.loudest[block] & 127];
        for (let word = 0; word < 4; word++)
          for (let bits = blocks.pitches[4 * block + word]; bits !== 0; bits &= bits - 1)
            pixels[(127 - 32 * word - (31 - Math.clz32(bits & -bits))) * width + pixel] = shade;
        row += BLOCK - 1;
        continue;
      }
    }
    const left = (start[row] - origin) * scale;
    const right = (finish[row] - origin) * scale;
    if (right < 0 || left > last) continue;
    const line = (127 - pitch[row]) * width;
    const to = line + (right > last ? last : right | 0);
    const pixel = inks[velocity[row] & 127];
    for (let x = line + (left < 0 ? 0 : left | 0); x <= to; x++) pixels[x] = pixel;
  }
  const picture = crowdCanvas;
  const surface = picture.getContext('2d');
  if (!surface) return;
  surface.putImageData(crowdImage, 0, 0);
  context.imageSmoothingEnabled = false;
  const show = (pitch: number, rows: number, height: number) =>
    // prettier-ignore
    context.drawImage(picture, 0, 127 - pitch, width, rows, layout.gutter, yOf(pitch, window, layout), rollWidth(layout), height);
  if (!layout.rows) show(127, 128, 128 * window.rowHeight);
  else for (let at = 0; at < 128; at++) show(at, 1, rowHeightOf(at, window, layout));
}
