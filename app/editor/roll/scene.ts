import type { NoteValue, Section, Timeline, PartView } from '@ordle/core';
import type { EditorWindow } from '@/state/viewSlice';
import type { Colours } from '../colours';
import type { SeenMarker } from '../markers';
import type { Layout } from './geometry';
import type { Preview } from './preview';
import type { SelectionSpan } from './stretchGesture';
import type { WhereSpan } from './whereSpans';

/** Another part shown with the active one. */
export interface OtherPart {
  partId: string;
  ink: number;
  view: PartView;
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
  /** What each step that is on touches, in the order of the steps. */
  spans: WhereSpan[];
  /** Pitches the current step touches, where it names some. */
  wherePitch: [number, number] | null;
  /** What bars the transpose current step moves by what; null at other stops. */
  sections: readonly Section[] | null;
  /** The step whose notes are lit, and a byte a row of the view: 1 for those. */
  litStep: string | null;
  lit: Uint8Array | null;
  loop: { on: boolean; from: number; to: number };
  markers: readonly SeenMarker[];
  ink: number;
  drums: boolean;
  middleC: 3 | 4;
  /** Pitches of the part that are muted. */
  silent: readonly number[];
  hovered: number;
  /** A byte a row of the view: 1 for selected notes. */
  selected: Uint8Array;
  /** First start and last end of the selected notes when there are two or more. */
  selectionSpan: SelectionSpan | null;
  /** Row the keyboard stands on, or -1. */
  focused: number;
  preview: Preview | null;
  /** Rows of the notes that sound while music plays. */
  sounding: readonly number[];
  /** Other parts shown behind the active one, and a byte a row of each: 1 for its selected notes. */
  others: OtherPart[];
  othersSelected: ReadonlyMap<string, Uint8Array>;
  show: 'both' | 'cleaned' | 'played';
  time: 'bars' | 'seconds';
  colours: Colours;
  pixelRatio: number;
}
