import { rollWidth } from './geometry';
import { createKeptPicture } from './keptPicture';
import type { Scene } from './scene';

const showKept = createKeptPicture();

/**
 * The strip over the roll: how late (up) and early (down) the whole part is, as played in outline and here filled,
 * with the window's frame on it.
 */
export function paintStrip(context: CanvasRenderingContext2D, scene: Scene, endTick: number) {
  const { layout, window, colours, view, pixelRatio } = scene;
  const size = { width: layout.width, height: layout.overview, pixelRatio };
  showKept(context, size, [view?.strip, layout.gutter, colours], (to) => paintLateness(to, scene));
  const width = rollWidth(layout);
  const left = layout.gutter + (Math.max(0, window.tick) / endTick) * width;
  const right =
    layout.gutter + (Math.min(endTick, window.tick + width * window.ticksPerPixel) / endTick) * width;
  context.strokeStyle = colours.ink;
  context.lineWidth = 1;
  context.strokeRect(
    Math.round(left) + 0.5,
    1.5,
    Math.max(6, Math.round(right - left) - 1),
    layout.overview - 3,
  );
}

/** The strip without the frame: the same however the window moves. */
function paintLateness(context: CanvasRenderingContext2D, { layout, colours, view }: Scene) {
  context.fillStyle = colours.well;
  context.fillRect(0, 0, layout.width, layout.overview);
  const width = rollWidth(layout);
  const middle = Math.round(layout.overview / 2);
  context.fillStyle = colours.rule;
  context.fillRect(layout.gutter, middle, width, 1);
  if (view && view.notes.length > 0) {
    const { before, after, reach } = view.strip;
    const scale = (middle - 4) / reach;
    const bins = { width: width / before.late.length, left: layout.gutter };
    const height = (ms: number) => Math.min(middle - 4, ms * scale);
    fillBins(context, after.late, { ...bins, colour: colours.late }, (ms) => [
      middle - height(ms),
      height(ms),
    ]);
    fillBins(context, after.early, { ...bins, colour: colours.early }, (ms) => [middle + 1, height(ms)]);
    context.fillStyle = colours.ink3;
    for (const [list, sign] of [
      [before.late, -1],
      [before.early, 1],
    ] as const)
      // prettier-ignore
      outlineBins(context, list, bins, (ms) => middle + sign * height(ms));
  }
  context.font = colours.letters;
  context.textBaseline = 'middle';
  context.fillStyle = colours.ink2;
  context.fillText('late', 6, middle - 10);
  context.fillText('early', 6, middle + 11);
}

interface BinPlaces {
  left: number;
  width: number;
}

/** Bars as high as their bins; `place` gives the top and height for some ms. */
function fillBins(
  context: CanvasRenderingContext2D,
  list: Float32Array,
  { left, width, colour }: BinPlaces & { colour: string },
  place: (ms: number) => [top: number, height: number],
) {
  context.fillStyle = colour;
  for (let bin = 0; bin < list.length; bin++) {
    const [top, height] = place(list[bin]);
    if (height > 0.3) context.fillRect(left + bin * width, top, Math.max(1, width - 0.5), height);
  }
}

/** A thin edge along the tops of the bins, in boxes: a long line with many corners costs a frame ten times as much. */
function outlineBins(
  context: CanvasRenderingContext2D,
  list: Float32Array,
  { left, width }: BinPlaces,
  yOfMs: (ms: number) => number,
) {
  const rest = yOfMs(0);
  let before = rest;
  for (let bin = 0; bin <= list.length; bin++) {
    const ms = bin < list.length ? list[bin] : 0;
    const y = ms > 0 ? yOfMs(ms) : rest;
    const x = left + bin * width;
    if (y !== before) context.fillRect(x, Math.min(before, y), 1, Math.abs(y - before) + 1);
    if (ms > 0) context.fillRect(x, y, width, 1);
    before = y;
  }
}
