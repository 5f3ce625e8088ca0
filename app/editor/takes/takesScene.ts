import type { BarsContent, BarsLook, SeenNotes } from '../bars/barsScene';

/** A take as a row: its notes, and a figure a bar (bar 1 first; shorter where it ends earlier). */
export interface SeenTake {
  name: string;
  notes: SeenNotes;
  /** Spread in ms; NaN without notes. */
  spread: readonly number[];
  missing: ArrayLike<number>;
  extra: ArrayLike<number>;
  fault: string | null;
}

export interface SeenSeam {
  /** In ticks. */
  at: number;
  /** The rows it goes from and to; -1 for none. */
  from: number;
  to: number;
  /** Whether a note is cut at it. */
  isCutting: boolean;
}

/** A cell: a take, and a bar (0 is the first). */
export interface Cell {
  row: number;
  bar: number;
}

/** What is shown of a part's takes. */
export interface TakesContent extends BarsContent {
  takes: readonly SeenTake[];
  /** Which take each layer has in each bar; -1 for none. */
  chosen: readonly Int32Array[];
  /** The same of a proposal for the first layer; null while there is none. */
  proposal: Int32Array | null;
  assembled: SeenNotes;
  dropped: SeenNotes;
  seams: readonly SeenSeam[];
  /** The seam that is looked at, by its place in the list; -1 for none. */
  seam: number;
  focus: Cell;
  /** Cells the keyboard selects with the focus: as many bars on either side. */
  selected: { from: number; to: number };
  ink: number;
}

export interface TakesScene extends TakesContent, BarsLook {
  /** What a drag would choose; null while there is none. */
  dragged: { row: number; from: number; to: number } | null;
  hovered: Cell | null;
  /** Lowest and highest pitch of all takes. */
  pitches: [number, number];
}
