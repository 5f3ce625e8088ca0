import { laneTop, rollWidth, tickAt, xOf, type Layout } from './geometry';
import type { Scene } from './scene';
import { visibleRows } from './visibleRows';

/** Room above the stems for their heads, and below them. */
const PAD = 8;

export function yOfVelocity(velocity: number, layout: Layout): number {
  return layout.height - PAD - (velocity / 127) * (layout.lane - 2 * PAD);
}

export function velocityAtY(y: number, layout: Layout): number {
  const value = ((layout.height - PAD - y) / (layout.lane - 2 * PAD)) * 127;
  return Math.min(127, Math.max(1, Math.round(value)));
}

/** Pixels by which a note's stem stands to the right of its start: stems of a chord are fanned out so that each can be had. */
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

/** Velocities as stems under their notes. */
export function paintLane(context: CanvasRenderingContext2D, scene: Scene) {
  const { layout, window, colours, view, preview, selected } = scene;
  if (layout.lane === 0) return;
  const top = laneTop(layout);
  context.fillStyle = colours.sheet;
  context.fillRect(0, top, layout.width, layout.lane);
  context.fillStyle = colours.ruleStrong;
  context.fillRect(0, top, layout.width, 1);
  context.font = `11.5px ${colours.font}`;
  context.textBaseline = 'middle';
  for (const velocity of [32, 64, 96, 127]) {
    const y = Math.round(yOfVelocity(velocity, layout));
    context.fillStyle = colours.rule;
    context.fillRect(layout.gutter, y, rollWidth(layout), 1);
    context.fillStyle = colours.ink3;
    context.textAlign = 'right';
    if (velocity !== 96) context.fillText(String(velocity), layout.gutter - 6, y);
  }
  context.textAlign = 'left';
  context.fillStyle = colours.ink2;
  context.fillText('vel', 6, layout.height - PAD - 2);
  if (!view) return;
  context.save();
  context.beginPath();
  context.rect(layout.gutter, top, rollWidth(layout), layout.lane);
  context.clip();
  const { notes } = view;
  const rows = visibleRows(
    notes,
    tickAt(layout.gutter - 24, window, layout),
    tickAt(layout.width, window, layout),
  );
  const bottom = layout.height - PAD;
  const crowded = rows.end - rows.first > 1500;
  // In a crowd each pixel gets one stem, the loudest: nobody can tell more apart.
  const loudest = crowded ? new Float32Array(layout.width + 1) : null;
  for (let row = rows.first; row < rows.end; row++) {
    const x =
      xOf(notes.start[row], window, layout) +
      (crowded ? 0 : fanOf(rankOf(notes.start, row, window.ticksPerPixel)));
    if (x < layout.gutter || x > layout.width) continue;
    const velocity =
      (preview?.kind === 'velocity' ? preview.velocities.get(row) : undefined) ?? notes.velocity[row];
    if (loudest) {
      const pixel = Math.floor(x);
      if (velocity <= loudest[pixel]) continue;
      loudest[pixel] = velocity;
    }
    const y = yOfVelocity(velocity, layout);
    context.fillStyle = selected[row] ? colours.accent : colours.parts[scene.ink];
    context.fillRect(x, y, selected[row] ? 2 : 1.25, bottom - y);
    if (!crowded) context.fillRect(x - 2, y - 1, 6, 2.5);
  }
  if (preview?.kind === 'velocity') {
    context.font = `600 12px ${colours.font}`;
    const width = context.measureText(preview.words).width + 8;
    const x = Math.min(preview.x + 10, layout.width - width - 4);
    context.fillStyle = colours.sheet;
    context.fillRect(x, Math.max(top + 2, preview.y - 20), width, 17);
    context.fillStyle = colours.ink;
    context.fillText(preview.words, x + 4, Math.max(top + 11, preview.y - 11));
  }
  context.restore();
}
