/** What of the takes is in sight: the tick at the left edge, ticks a pixel, and the pixels of rows scrolled out at the top. */
export interface TakesWindow {
  tick: number;
  ticksPerPixel: number;
  top: number;
}

/** Where things stand on the canvas, in CSS pixels from its top left corner. */
export interface TakesLayout {
  width: number;
  height: number;
  /** How many takes there are. */
  rows: number;
}

export const RULER = 24;
/** The assembled part under the takes, with the names of what supplies each bar at its foot. */
export const ASSEMBLED = 128;
export const NAMES = 20;
/** Between two rows: room for the line that runs through the takes. */
export const GAP = 12;
const LEAST_ROW = 60;
const MOST_ROW = 150;
/** Ticks a pixel at the closest. */
const CLOSEST = 0.2;

export const rowsBottom = ({ height }: TakesLayout): number => height - ASSEMBLED;
const room = (layout: TakesLayout): number => Math.max(1, rowsBottom(layout) - RULER);

/** Height of a row with the gap under it: as high as the room allows, within reason. */
export function pitchOfRows(layout: TakesLayout): number {
  return Math.min(MOST_ROW, Math.max(LEAST_ROW, Math.floor(room(layout) / Math.max(1, layout.rows))));
}

export const topOfRow = (row: number, window: TakesWindow, layout: TakesLayout): number =>
  RULER + GAP / 2 + row * pitchOfRows(layout) - window.top;
export const heightOfCells = (layout: TakesLayout): number => pitchOfRows(layout) - GAP;

/** The take at a height of the canvas, held within those there are. */
export function rowAt(y: number, window: TakesWindow, layout: TakesLayout): number {
  const row = Math.floor((y - RULER + window.top) / pitchOfRows(layout));
  return Math.min(layout.rows - 1, Math.max(0, row));
}

/** The stretch of time that is in sight. */
export type TimeWindow = Pick<TakesWindow, 'tick' | 'ticksPerPixel'>;

export const xOfTick = (tick: number, window: TimeWindow): number =>
  (tick - window.tick) / window.ticksPerPixel;
export const tickOfX = (x: number, window: TimeWindow): number => window.tick + x * window.ticksPerPixel;

/** The bar (0 is the first) at a place, held within those there are; `lines` are the starts of the bars and the end of the last. */
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

/** The window held to the bars and rows there are. */
export function heldWindow(window: TakesWindow, layout: TakesLayout, end: number): TakesWindow {
  const farthest = Math.max(CLOSEST, end / Math.max(1, layout.width - 8));
  const ticksPerPixel = Math.min(farthest, Math.max(CLOSEST, window.ticksPerPixel));
  const lead = 4 * ticksPerPixel;
  const last = Math.max(-lead, end + lead - layout.width * ticksPerPixel);
  const most = Math.max(0, layout.rows * pitchOfRows(layout) - room(layout));
  return {
    ticksPerPixel,
    tick: Math.min(last, Math.max(-lead, window.tick)),
    top: Math.min(most, Math.max(0, window.top)),
  };
}

export const isSameTakesWindow = (one: TakesWindow, other: TakesWindow): boolean =>
  one.tick === other.tick && one.ticksPerPixel === other.ticksPerPixel && one.top === other.top;
