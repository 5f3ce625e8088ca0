/**
 * What is in sight of rows along the bars: the tick at the left edge, ticks a pixel, and the pixels of rows scrolled
 * out at the top.
 */
export interface BarsWindow {
  tick: number;
  ticksPerPixel: number;
  top: number;
}

/** Where things stand on the canvas, in CSS pixels from its top left corner. */
export interface BarsLayout {
  width: number;
  height: number;
  /** How many rows there are. */
  rows: number;
  /** Those that are headings, and so of one small height, by their numbers in order. */
  headings: readonly number[];
}

/** How rows lie under the ruler. */
export interface RowsShape {
  /** Least and most height of a row, with the gap under it. */
  least: number;
  most: number;
  gap: number;
  /** Pixels under the ruler, over the rows, that belong to something else. */
  above: number;
  /** Room after the end that can be shown, as a share of the whole time. */
  spare: number;
}

export const RULER = 24;
/** Height of a heading, with the gap under it. */
export const HEADING = 32;
/** Ticks a pixel at the closest. */
const CLOSEST = 0.2;
/** Pixels before the first line and after the last. */
const LEAD = 4;

const room = ({ height }: BarsLayout, { above }: RowsShape): number => Math.max(1, height - RULER - above);

/** Height of a row with the gap under it: as high as the room allows, within reason. */
export function rowHeight(layout: BarsLayout, shape: RowsShape): number {
  const { rows, headings } = layout;
  const left = room(layout, shape) - HEADING * headings.length;
  const fair = Math.floor(left / Math.max(1, rows - headings.length));
  return Math.min(shape.most, Math.max(shape.least, fair));
}

/** Pixels from the top of the first row to that of another. */
function offsetOf(row: number, layout: BarsLayout, shape: RowsShape): number {
  let before = 0;
  for (const heading of layout.headings) if (heading < row) before++;
  return before * HEADING + (row - before) * rowHeight(layout, shape);
}

export const rowTop = (row: number, window: BarsWindow, layout: BarsLayout, shape: RowsShape): number =>
  RULER + shape.above + shape.gap / 2 + offsetOf(row, layout, shape) - window.top;

/** The row at a height of the canvas; below 0 or past the last where there is none. */
export function rowIndexAt(y: number, window: BarsWindow, layout: BarsLayout, shape: RowsShape): number {
  let left = y - RULER - shape.above + window.top;
  let row = 0;
  const height = rowHeight(layout, shape);
  for (const heading of layout.headings) {
    if (left < (heading - row) * height) break;
    left -= (heading - row) * height;
    row = heading;
    if (left < HEADING) return row;
    left -= HEADING;
    row++;
  }
  return row + Math.floor(left / height);
}

/** The stretch of time that is in sight. */
export type TimeWindow = Pick<BarsWindow, 'tick' | 'ticksPerPixel'>;

export const xOfTick = (tick: number, window: TimeWindow): number =>
  (tick - window.tick) / window.ticksPerPixel;
export const tickOfX = (x: number, window: TimeWindow): number => window.tick + x * window.ticksPerPixel;

/**
 * The bar (0 is the first) at a place, held within those there are; `lines` are the starts of the bars and the end of
 * the last.
 */
export function barAtX(x: number, window: TimeWindow, lines: Float64Array): number {
  const tick = tickOfX(x, window);
  let [low, high] = [0, lines.length - 2];
  while (low < high) {
    const middle = (low + high + 1) >> 1;
    if (lines[middle] <= tick) low = middle;
    else high = middle - 1;
  }
  return low;
}

/** The window held to the time up to `end` and the rows there are. */
export function heldBarsWindow(
  window: BarsWindow,
  layout: BarsLayout,
  end: number,
  shape: RowsShape,
): BarsWindow {
  const whole = end * (1 + shape.spare);
  const farthest = Math.max(CLOSEST, whole / Math.max(1, layout.width - 2 * LEAD));
  const ticksPerPixel = Math.min(farthest, Math.max(CLOSEST, window.ticksPerPixel));
  const lead = LEAD * ticksPerPixel;
  const last = Math.max(-lead, whole + lead - layout.width * ticksPerPixel);
  const most = Math.max(0, offsetOf(layout.rows, layout, shape) - room(layout, shape));
  return {
    ticksPerPixel,
    tick: Math.min(last, Math.max(-lead, window.tick)),
    top: Math.min(most, Math.max(0, window.top)),
  };
}

export const isSameBarsWindow = (one: BarsWindow, other: BarsWindow): boolean =>
  one.tick === other.tick && one.ticksPerPixel === other.ticksPerPixel && one.top === other.top;

/** A window that shows `factor` times as much time; what lies at x stays there. */
export function zoomedAt<W extends TimeWindow>(window: W, x: number, factor: number): W {
  const ticksPerPixel = window.ticksPerPixel * factor;
  return { ...window, ticksPerPixel, tick: tickOfX(x, window) - x * ticksPerPixel };
}
