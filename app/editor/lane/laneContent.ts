import type { CurveEdit, DrawnLine, LanePlace, LaneView, NoteValue, PlacedMark, Timeline } from '@ordle/core';
import type { LaneMarks } from './markGestures';

/** What the Bench tells a lane to show. */
export interface LaneContent {
  view: LaneView;
  timeline: Timeline;
  grid: NoteValue[];
  snap: boolean;
  tool: 'select' | 'draw' | 'erase';
  mayEdit: boolean;
  ink: number;
  /** Music plays: gestures are heard while they go on. */
  playing: boolean;
  /** The lines that were drawn here and can be shaped further. */
  lines: readonly DrawnLine[];
  /** The marks of the current step, when it puts dynamic marks in this lane. */
  marks: LaneMarks | null;
  /** The point a thinning is farthest from, as it was. */
  error: { at: number; value: number } | null;
  /** The stretches of time whose points go along with the selected notes. */
  along: readonly [number, number][];
}

/** What a lane tells the Bench. */
export interface LaneEvents {
  /** What is to be done; edits of one gesture take the place of its earlier ones. */
  onEdit(label: string, edits: CurveEdit[], gesture: string | null): void;
  onAbandon(gesture: string): void;
  onMarks(label: string, marks: PlacedMark[], gesture: string | null): void;
  /** The value under the pointer, or null. */
  onPoint(place: LanePlace | null): void;
  /** The rows of the selected points. */
  onSelection(rows: ReadonlySet<number>): void;
  /** The clipboard's text holds no points. */
  onRefused(error: unknown): void;
  /** A sentence on what was done. */
  onTold(sentence: string): void;
  playTick(): number;
}

/**
 * What a lane draws on: a canvas, the play line over it, and the list it lies in, which is scrolled when it is too
 * high for its room.
 */
export interface LaneElements {
  canvas: HTMLCanvasElement;
  playLine: HTMLElement;
  stack: HTMLElement | null;
}

/** The selected points, while a lane is not shown. */
export interface LaneKept {
  selected: LanePlace[];
}
