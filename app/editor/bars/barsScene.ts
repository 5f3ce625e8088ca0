import type { Colours } from '../colours';
import type { SeenMarker } from '../markers';
import type { BarsLayout, BarsWindow } from './barsGeometry';

/** Notes where they lie in the session, in ticks. */
export interface SeenNotes {
  start: Float64Array;
  end: Float64Array;
  pitch: Uint8Array;
}

export const NO_NOTES: SeenNotes = {
  start: new Float64Array(0),
  end: new Float64Array(0),
  pitch: new Uint8Array(0),
};

/** What rows along the bars show besides their rows. */
export interface BarsContent {
  /** The starts of the bars in ticks, and the end of the last. */
  lines: Float64Array;
  loop: { on: boolean; from: number; to: number };
  markers: readonly SeenMarker[];
}

/** Where and how it is shown. */
export interface BarsLook {
  layout: BarsLayout;
  window: BarsWindow;
  colours: Colours;
  pixelRatio: number;
  /** Whether the canvas has the keyboard. */
  isFocused: boolean;
}
