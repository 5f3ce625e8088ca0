import { RULER, xOfTick } from '../takes/takesGeometry';
import type { BlocksDrag, PartsLayout, PartsWindow, SeenBlock, SeenPart } from './partsScene';

export { RULER };
/** Between two rows. */
export const GAP = 6;
const LEAST_ROW = 30;
const MOST_ROW = 72;
const CLOSEST = 0.2;

/** Height of a row with the gap under it: as high as the room allows, within reason. */
export function heightOfRows({ height, rows }: PartsLayout): number {
  return Math.min(MOST_ROW, Math.max(LEAST_ROW, Math.floor((height - RULER) / Math.max(1, rows))));
}

export const topOfPart = (row: number, window: PartsWindow, layout: PartsLayout): number =>
  RULER + GAP / 2 + row * heightOfRows(layout) - window.top;

/** The row at a height of the canvas; -1 below the last. */
export function partAt(y: number, window: PartsWindow, layout: PartsLayout): number {
  const row = Math.floor((y - RULER + window.top) / heightOfRows(layout));
  return row >= 0 && row < layout.rows ? row : -1;
}

/** The window held to the time and rows there are; some room stays after the end, to move blocks into. */
export function heldPartsWindow(window: PartsWindow, layout: PartsLayout, end: number): PartsWindow {
  const farthest = Math.max(CLOSEST, (end * 1.1) / Math.max(1, layout.width));
  const ticksPerPixel = Math.min(farthest, Math.max(CLOSEST, window.ticksPerPixel));
  const lead = 4 * ticksPerPixel;
  const last = Math.max(-lead, end * 1.1 - layout.width * ticksPerPixel);
  const most = Math.max(0, layout.rows * heightOfRows(layout) - (layout.height - RULER));
  return {
    ticksPerPixel,
    tick: Math.min(last, Math.max(-lead, window.tick)),
    top: Math.min(most, Math.max(0, window.top)),
  };
}

/** Where a block lies while it is dragged. */
export function draggedBlock(block: SeenBlock, drag: BlocksDrag): SeenBlock {
  const { kind, by } = drag;
  if (kind === 'move')
    return { ...block, start: block.start + by, once: block.once + by, end: block.end + by };
  if (kind === 'start') return { ...block, start: Math.min(block.start + by, block.once - 1) };
  const times = (block.end - block.start) / (block.once - block.start);
  const end = Math.max(block.start + 1, block.end + by);
  return { ...block, end, once: block.start + (end - block.start) / times };
}

/** Pixels at the ends of a block that take hold of its edge. */
const EDGE = 7;

/** The block at a place, the last of several, and which of its edges is taken hold of. */
export function blockAt(
  part: SeenPart,
  x: number,
  window: PartsWindow,
): { block: SeenBlock; edge: 'start' | 'end' | null } | null {
  const block = part.blocks.findLast(({ start, end }) => {
    const [left, right] = [xOfTick(start, window), xOfTick(end, window)];
    return x >= left && x < right;
  });
  if (!block) return null;
  const [left, right] = [xOfTick(block.start, window), xOfTick(block.end, window)];
  const reach = Math.min(EDGE, (right - left) / 4);
  return { block, edge: x < left + reach ? 'start' : x >= right - reach ? 'end' : null };
}
