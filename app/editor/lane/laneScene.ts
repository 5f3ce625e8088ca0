import type { DrawnLine, LaneView } from '@ordle/core';
import type { EditorWindow } from '@/state/viewSlice';
import type { Colours } from '../colours';
import type { LaneMarks } from './markGestures';
import type { SelectionBox } from './shapeGestures';

/** Everything a lane's painters need; they read it and change nothing. Sizes in CSS pixels. */
export interface LaneScene {
  view: LaneView;
  window: EditorWindow;
  width: number;
  height: number;
  gutter: number;
  ink: number;
  colours: Colours;
  /** Selected points, by row. */
  selected: ReadonlySet<number>;
  /** What the gesture under way would make of the lane: ticks and values of a stroke, or a box. */
  stroke: { at: number; value: number }[] | null;
  box: { left: number; right: number; top: number; bottom: number } | null;
  pedal: boolean;
  /** The box around selected points, whose corners scale them; and the lines that can be shaped, by their ends too. */
  selectionBox: SelectionBox | null;
  lines: readonly DrawnLine[];
  endsShape: boolean;
  marks: LaneMarks | null;
  /** The point a thinning is farthest from, as it was. */
  error: { at: number; value: number } | null;
  /** The stretches whose points go along with the selected notes, and by how many ticks those are being dragged. */
  along: readonly (readonly [number, number])[];
  carried: number;
}

/** The pixel of a tick in a lane. */
export const xInLane = ({ window, gutter }: LaneScene, tick: number) =>
  gutter + (tick - window.tick) / window.ticksPerPixel;
