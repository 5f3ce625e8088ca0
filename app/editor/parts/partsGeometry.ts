import { reachOf } from '@/surface';
import {
  RULER,
  rowHeight,
  rowIndexAt,
  rowTop,
  xOfTick,
  type BarsLayout,
  type BarsWindow,
  type RowsShape,
  type TimeWindow,
} from '../bars/barsGeometry';
import type { BlocksDrag, SeenBlock, SeenPart } from './partsScene';

export { RULER };
/** Between two rows. */
export const GAP = 6;
/** Some room stays after the end, to move blocks into. */
export const PARTS_SHAPE: RowsShape = { least: 30, most: 110, gap: GAP, above: 0, spare: 0.1 };

export const heightOfRows = (layout: BarsLayout): number => rowHeight(layout, PARTS_SHAPE);
export const topOfPart = (row: number, window: BarsWindow, layout: BarsLayout): number =>
  rowTop(row, window, layout, PARTS_SHAPE);

/** The row at a height of the canvas; -1 below the last. */
export function partAt(y: number, window: BarsWindow, layout: BarsLayout): number {
  const row = rowIndexAt(y, window, layout, PARTS_SHAPE);
  return row >= 0 && row < layout.rows ? row : -1;
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
  window: TimeWindow,
): { block: SeenBlock; edge: 'start' | 'end' | null } | null {
  const block = part.blocks.findLast(({ start, end }) => {
    const [left, right] = [xOfTick(start, window), xOfTick(end, window)];
    return x >= left && x < right;
  });
  if (!block) return null;
  const [left, right] = [xOfTick(block.start, window), xOfTick(block.end, window)];
  const reach = Math.min(reachOf(EDGE), (right - left) / 4);
  return { block, edge: x < left + reach ? 'start' : x >= right - reach ? 'end' : null };
}

/** The stretches in which two blocks or more of a part lie over each other, in order; what only touches does not. */
export function overlapsOf(blocks: readonly { start: number; end: number }[]): [number, number][] {
  const found: [number, number][] = [];
  let reached = -Infinity;
  for (const { start, end } of blocks.toSorted((a, b) => a.start - b.start)) {
    const to = Math.min(end, reached);
    if (to > start + 0.5) {
      const last = found.at(-1);
      if (last && start <= last[1]) last[1] = Math.max(last[1], to);
      else found.push([start, to]);
    }
    reached = Math.max(reached, end);
  }
  return found;
}
