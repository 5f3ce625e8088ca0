import type { NoteValue, Timeline } from '@ordle/core';
import type { PartView } from '@/engine/protocol';
import type { EditorWindow } from '@/state/viewSlice';
import type { Colours } from './colours';
import type { Layout } from './geometry';

/** A stretch of bars a step touches, for the ruler. Ticks. */
export interface WhereSpan {
  from: number;
  to: number;
  chosen: boolean;
}

/** Everything the painters need; they read it and change nothing. */
export interface Scene {
  layout: Layout;
  window: EditorWindow;
  view: PartView | null;
  timeline: Timeline;
  /** Ticks of a millisecond at the first tempo. */
  ticksPerMs: number;
  grid: { values: NoteValue[]; swing: number };
  spans: WhereSpan[];
  loop: { on: boolean; from: number; to: number };
  ink: number;
  drums: boolean;
  middleC: 3 | 4;
  hovered: number;
  colours: Colours;
  pixelRatio: number;
}
