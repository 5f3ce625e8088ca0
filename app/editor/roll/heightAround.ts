import { OVERVIEW_HEIGHT, RULER_HEIGHT } from './geometry';
import { HARMONY_HEIGHT } from './harmonyBars';
import { stripHeight, type WhereSpan } from './whereSpans';

/** How much of the canvas lies over and under the notes, velocities apart, in CSS pixels. */
export const heightAround = (spans: readonly WhereSpan[], harmony: boolean): number =>
  OVERVIEW_HEIGHT + RULER_HEIGHT + stripHeight([...spans]) + (harmony ? HARMONY_HEIGHT : 0);
