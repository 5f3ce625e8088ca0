import type { Strokes } from '@ordle/core';
import type { BarsContent, BarsLook, SeenNotes } from '../bars/barsScene';

/**
 * A performance in real time: all places in milliseconds from its start, where other rows along the bars have ticks.
 */
export interface TempoContent extends BarsContent {
  notes: SeenNotes;
  /** What is struck together and how much it stands out, where dragged beats go along; in seconds. */
  strokes: Strokes;
  ink: number;
  /** Where beats are, which of them begin bars, how sure each is (0-1), and those a person set. */
  beats: Float64Array;
  downbeats: ReadonlySet<number>;
  /** The number of the bar that begins with the first downbeat. */
  firstBar: number;
  sure: Float32Array;
  set: readonly number[];
  /** Taps along with the playing that are not laid yet. */
  taps: readonly number[];
  /** The same beats as they are settled; what the tempo is told of. */
  settled: Float64Array;
  /** Number of the beat that is meant by what is done by key; -1 for none. */
  focus: number;
}

export interface TempoScene extends TempoContent, BarsLook {
  /** A beat that is being dragged, where to, and where all beats then are. */
  dragged: { beat: number; to: number; beats: readonly number[] } | null;
}
