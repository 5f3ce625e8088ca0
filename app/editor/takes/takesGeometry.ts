import {
  rowHeight,
  rowIndexAt,
  rowTop,
  rowsBottom as bottomOf,
  type BarsLayout,
  type BarsWindow,
  type RowsShape,
} from '../bars/barsGeometry';

export { RULER, barAtX, tickOfX, xOfTick } from '../bars/barsGeometry';

/** The assembled part under the takes, with the names of what supplies each bar at its foot. */
export const ASSEMBLED = 128;
export const NAMES = 20;
/** Between two rows: room for the line that runs through the takes. */
export const GAP = 12;
export const TAKES_SHAPE: RowsShape = { least: 60, most: 150, gap: GAP, below: ASSEMBLED, spare: 0 };

export const rowsBottom = (layout: BarsLayout): number => bottomOf(layout, TAKES_SHAPE);
export const pitchOfRows = (layout: BarsLayout): number => rowHeight(layout, TAKES_SHAPE);
export const topOfRow = (row: number, window: BarsWindow, layout: BarsLayout): number =>
  rowTop(row, window, layout, TAKES_SHAPE);
export const heightOfCells = (layout: BarsLayout): number => pitchOfRows(layout) - GAP;

/** The take at a height of the canvas, held within those there are. */
export const rowAt = (y: number, window: BarsWindow, layout: BarsLayout): number =>
  Math.min(layout.rows - 1, Math.max(0, rowIndexAt(y, window, layout, TAKES_SHAPE)));
