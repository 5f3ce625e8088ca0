import {
  RULER,
  barAtX,
  rowHeight,
  rowIndexAt,
  rowTop,
  tickOfX,
  xOfTick,
  type BarsLayout,
  type BarsWindow,
  type RowsShape,
} from '../bars/barsGeometry';

export { RULER, barAtX, tickOfX, xOfTick };

/** The assembled part under the ruler and over the takes, with the names of what supplies each bar at its foot. */
export const ASSEMBLED = 128;
export const NAMES = 20;
/** Between two rows: room for the line that runs through the takes. */
export const GAP = 12;
export const TAKES_SHAPE: RowsShape = { least: 60, most: 260, gap: GAP, above: ASSEMBLED, spare: 0 };
/** Where the rows of the takes begin. */
export const ROWS_TOP = RULER + ASSEMBLED;

export const pitchOfRows = (layout: BarsLayout): number => rowHeight(layout, TAKES_SHAPE);
export const topOfRow = (row: number, window: BarsWindow, layout: BarsLayout): number =>
  rowTop(row, window, layout, TAKES_SHAPE);
export const heightOfCells = (layout: BarsLayout): number => pitchOfRows(layout) - GAP;

/** The take at a height of the canvas, held within those there are. */
export const rowAt = (y: number, window: BarsWindow, layout: BarsLayout): number =>
  Math.min(layout.rows - 1, Math.max(0, rowIndexAt(y, window, layout, TAKES_SHAPE)));

/** The line through what is chosen goes level for at least so many pixels: with less it would be a block of strokes. */
const LEAST_STEP = 7;

/** How wide the bars are on average, in pixels. */
export const meanBarPixels = (
  lines: Float64Array,
  { ticksPerPixel }: Pick<BarsWindow, 'ticksPerPixel'>,
): number => ((lines.at(-1) ?? 0) - (lines.at(0) ?? 0)) / Math.max(1, lines.length - 1) / ticksPerPixel;

/** Whether there is room for a ring at every seam. */
export const hasRings = (lines: Float64Array, window: Pick<BarsWindow, 'ticksPerPixel'>): boolean =>
  meanBarPixels(lines, window) >= LEAST_STEP;

/**
 * The line through what is chosen in some bars, as level stretches of bars [from, to) with their row, -1 for none.
 * Bars of so few pixels that it could not be followed are taken together: their stretch is where most of them are.
 */
export function lineOfChoice(
  chosen: Int32Array,
  first: number,
  last: number,
  barPixels: number,
): { from: number; to: number; row: number }[] {
  const bars = Math.max(1, Math.ceil(LEAST_STEP / Math.max(1e-9, barPixels)));
  const made: { from: number; to: number; row: number }[] = [];
  // Stretches begin at the same bars wherever one has scrolled to.
  for (let from = first - (first % bars); from < last; from += bars) {
    const to = Math.min(from + bars, chosen.length);
    const row = mostOften(chosen.subarray(from, to));
    const before = made.at(-1);
    if (before?.row === row) before.to = to;
    else made.push({ from, to, row });
  }
  return made;
}

function mostOften(rows: Int32Array): number {
  const counts = new Map<number, number>();
  let most = -1;
  for (const row of rows) {
    const count = (counts.get(row) ?? 0) + 1;
    counts.set(row, count);
    if (count > (counts.get(most) ?? 0)) most = row;
  }
  return most;
}
