import type { BarsContent, BarsLook, SeenNotes } from '../bars/barsScene';

/** A block as it is shown: places in ticks. */
export interface SeenBlock {
  id: string;
  start: number;
  /** End of its first time, and of its last repetition. */
  once: number;
  end: number;
  /** Others are of the same source, and this is not the first of them. */
  isLinked: boolean;
  /** It lays nothing for now. */
  isMuted: boolean;
  /** What is written in it: how often, how much slower. */
  words: string;
}

/** A row: a part, or the heading of a group with the notes of its parts. */
export interface SeenPart {
  id: string;
  isGroup: boolean;
  isFolded: boolean;
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

export interface PartsContent extends BarsContent {
  parts: readonly SeenPart[];
  /** Keys of the selected blocks. */
  selected: ReadonlySet<string>;
  /** The active part. */
  active: string | null;
  /** Ticks a drag is held to; 0 for free. */
  snap: number;
}

/** What a drag of blocks would do, in ticks. */
export interface BlocksDrag {
  kind: 'move' | 'start' | 'end' | 'stretch';
  place: BlockPlace;
  by: number;
}

export interface PartsScene extends PartsContent, BarsLook {
  drag: BlocksDrag | null;
  /** The box that selects, on the canvas. */
  marquee: { left: number; top: number; right: number; bottom: number } | null;
}
