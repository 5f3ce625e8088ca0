import { areFewSelected } from './paintMarks';
import { velocitiesTop, rollWidth, tickAt, xOf, type Layout } from './geometry';
import { BLOCK, blocksOf } from './noteBlocks';
import type { Scene } from './scene';
import { visibleRows } from './visibleRows';

/** Room above the stems for their heads, and below them. */
const PAD = 8;

export function yOfVelocity(velocity: number, layout: Layout): number {
  return layout.height - PAD - (velocity / 127) * (layout.velocities - 2 * PAD);
}

export function velocityAtY(y: number, layout: Layout): number {
  const value = ((layout.height - PAD - y) / (layout.velocities - 2 * PAD)) * 127;
  return Math.min(127, Math.max(1, Math.round(value)));
}

/**
 * Pixels by which a note's stem stands to the right of its start: stems of a chord are fanned out so that each can be
 * had.
 */
export function fanOf(rank: number): number {
  return Math.min(rank, 6) * 3;
}

/** How many notes before this one start at the same pixel. */
export function rankOf(start: Float64Array, row: number, ticksPerPixel: number): number {
  let rank = 0;
  for (let before = row - 1; before >= 0 && rank < 6 && start[row] - start[before] < ticksPerPixel; before--)
    rank++;
  return rank;
}

/** Past this many stems in sight each pixel gets one, the loudest: nobody can tell more apart. */
const MOST_STEMS = 1500;

function velocityOf({ view, preview }: Scene, row: number): number {
  return (
    (preview?.kind === 'velocity' ? preview.velocities.get(row) : undefined) ?? view?.notes.velocity[row] ?? 0
  );
}

function paintCrowd(
  context: CanvasRenderingContext2D,
  scene: Scene,
  rows: { first: number; end: number },
  bottom: number,
) {
  const { layout, window, colours, view, selected, selectionSpan, preview } = scene;
  if (!view) return;
  const { start, velocity } = view.notes;
  const width = rollWidth(layout);
  const loudest = new Float32Array(width + 1);
  const hasSelected = new Uint8Array(width + 1);
  const scale = 1 / window.ticksPerPixel;
  const origin = window.tick;
  const drawn = preview?.kind === 'velocity';
  const blocks = blocksOf(view.notes);
  for (let row = rows.first; row < rows.end; row++) {
    if (!drawn && !selectionSpan && row % BLOCK === 0 && row + BLOCK <= rows.end) {
      const block = row / BLOCK;
      const pixel = ((start[row] - origin) * scale) | 0;
      // The whole block starts in one pixel, which gets its loudest.
      if (pixel >= 0 && pixel <= width && (((blocks.lastStart[block] - origin) * scale) | 0) === pixel) {
        if (blocks.loudest[block] > loudest[pixel]) loudest[pixel] = blocks.loudest[block];
        row += BLOCK - 1;
        continue;
      }
    }
    const pixel = ((start[row] - origin) * scale) | 0;
    if (pixel < 0 || pixel > width) continue;
    const value = drawn ? velocityOf(scene, row) : velocity[row];
    if (value > loudest[pixel]) loudest[pixel] = value;
    if (selected[row]) hasSelected[pixel] = 1;
  }
  for (let pixel = 0; pixel <= width; pixel++) {
    if (loudest[pixel] === 0) continue;
    const y = yOfVelocity(loudest[pixel], layout);
    context.fillStyle = hasSelected[pixel] ? colours.ink : colours.parts[scene.ink];
    context.fillRect(layout.gutter + pixel, y, 1, bottom - y);
  }
}

/** Velocities as stems under their notes. */
export function paintVelocities(context: CanvasRenderingContext2D, scene: Scene) {
  const { layout, window, colours, view, preview, selected } = scene;
  if (layout.velocities === 0) return;
  const top = velocitiesTop(layout);
  context.fillStyle = colours.sheet;
  context.fillRect(0, top, layout.width, layout.velocities);
  context.fillStyle = colours.ruleStrong;
  context.fillRect(0, top, layout.width, 1);
  context.font = colours.letters;
  context.textBaseline = 'middle';
  for (const velocity of [32, 64, 96, 127]) {
    const y = Math.round(yOfVelocity(velocity, layout));
    context.fillStyle = colours.rule;
    context.fillRect(layout.gutter, y, rollWidth(layout), 1);
    context.fillStyle = colours.ink3;
    context.textAlign = 'right';
    // A low strip has room for the ends and the middle only.
    const isTold = velocity === 127 || velocity === 64 || (velocity === 32 && layout.velocities >= 80);
    if (isTold) context.fillText(String(velocity), layout.gutter - 6, y);
  }
  context.textAlign = 'left';
  context.fillStyle = colours.ink2;
  context.fillText('velocity', 6, layout.height - PAD - 2);
  if (!view) return;
  context.save();
  context.beginPath();
  context.rect(layout.gutter, top, rollWidth(layout), layout.velocities);
  context.clip();
  const { notes } = view;
  const rows = visibleRows(
    notes,
    tickAt(layout.gutter - 24, window, layout),
    tickAt(layout.width, window, layout),
  );
  const bottom = layout.height - PAD;
  if (rows.end - rows.first > MOST_STEMS) paintCrowd(context, scene, rows, bottom);
  else {
    const isFew = areFewSelected(selected, rows.first, rows.end);
    for (let row = rows.first; row < rows.end; row++) {
      const x = xOf(notes.start[row], window, layout) + fanOf(rankOf(notes.start, row, window.ticksPerPixel));
      if (x < layout.gutter || x > layout.width) continue;
      const y = yOfVelocity(velocityOf(scene, row), layout);
      context.fillStyle = selected[row] ? colours.ink : colours.parts[scene.ink];
      // Of many selected ones each costs every frame of a drag: theirs is one broad stem.
      context.fillRect(x, y, !selected[row] ? 1.25 : isFew ? 2 : 3, bottom - y);
      if (selected[row] && !isFew) continue;
      // A selected head is a larger one with a core of paper: filled boxes cost a drag less than outlines.
      if (selected[row]) {
        context.fillRect(x - 4, y - 3, 10, 6.5);
        context.fillStyle = colours.sheet;
        context.fillRect(x - 2, y - 1, 6, 2.5);
      } else context.fillRect(x - 2, y - 1, 6, 2.5);
    }
  }
  if (preview?.kind === 'velocity') {
    context.font = `600 ${colours.letters}`;
    const width = context.measureText(preview.words).width + 8;
    const x = Math.min(preview.x + 10, layout.width - width - 4);
    context.fillStyle = colours.sheet;
    context.fillRect(x, Math.max(top + 2, preview.y - 20), width, 17);
    context.fillStyle = colours.ink;
    context.fillText(preview.words, x + 4, Math.max(top + 11, preview.y - 11));
  }
  context.restore();
}
