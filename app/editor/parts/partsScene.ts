import type { Colours } from '../colours';
import type { SeenNotes } from '../takes/takesScene';

/** A block as it is shown: places in ticks. */
export interface SeenBlock {
  id: string;
  start: number;
  /** End of its first time, and of its last repetition. */
  once: number;
  end: number;
  /** Others are of the same source, and this is not the first of them. */
  isLinked: boolean;
  /** What is written in it: how often, how much slower. */
  words: string;
}

export interface SeenPart {
  id: string;
  ink: number;
  notes: SeenNotes;
  blocks: readonly SeenBlock[];
  isHeard: boolean;
  isSetAside: boolean;
}

/** A block by its part. */
export interface BlockPlace {
  part: string;
  block: string;
}

export const keyOfBlock = ({ part, block }: BlockPlace): string => `${part} ${block}`;

export interface PartsContent {
  parts: readonly SeenPart[];
  /** The starts of the bars in ticks, and the end of the last. */
  lines: Float64Array;
  /** Keys of the selected blocks. */
  selected: ReadonlySet<string>;
  /** The active part. */
  active: string | null;
  loop: { on: boolean; from: number; to: number };
  /** Ticks a drag is held to; 0 for free. */
  snap: number;
}

/** What a drag of blocks would do, in ticks. */
export interface BlocksDrag {
  kind: 'move' | 'start' | 'end' | 'stretch';
  place: BlockPlace;
  by: number;
}

export interface PartsWindow {
  tick: number;
  ticksPerPixel: number;
  top: number;
}

export interface PartsLayout {
  width: number;
  height: number;
  rows: number;
}

export interface PartsScene extends PartsContent {
  layout: PartsLayout;
  window: PartsWindow;
  colours: Colours;
  pixelRatio: number;
  drag: BlocksDrag | null;
  /** The box that selects, on the canvas. */
  marquee: { left: number; top: number; right: number; bottom: number } | null;
  isFocused: boolean;
}
