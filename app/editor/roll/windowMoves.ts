import { barAt, type MeterMap, type PartView, type ViewNotes } from '@ordle/core';
import type { EditorWindow } from '@/state/viewSlice';
import {
  fitWindow,
  pitchRange,
  rollHeight,
  rollTop,
  rollWidth,
  topBelow,
  xOf,
  yOf,
  type Layout,
} from './geometry';

/** Bars in sight at the first look: few enough that moves of 20 ms can be seen. */
const FIRST_BARS = 4;
/** From this width on more bars are shown, as wide as in it, in pixels. */
const WIDE = 1100;

/** The first look at a part: its first bars with notes, or all of it from there on when it is shorter. */
export function firstLook(layout: Layout, meter: MeterMap, view: PartView, endTick: number): EditorWindow {
  const first = view.notes.length === 0 ? 0 : view.notes.start[0];
  // A note played a little ahead of a bar belongs to it.
  const bar = barAt(meter, first + meter.ticksPerQuarter / 8);
  const from = Math.min(first, bar.start);
  return fitWindow(
    layout,
    from,
    Math.max(
      from + 1,
      Math.min(endTick, from + (bar.end - bar.start) * FIRST_BARS * Math.max(1, rollWidth(layout) / WIDE)),
    ),
    pitchRange(view.notes.pitch),
  );
}

/** The window moved so far that a note is in sight; the very same when it is. */
export function toReveal(window: EditorWindow, layout: Layout, notes: ViewNotes, row: number): EditorWindow {
  const [x, y] = [xOf(notes.start[row], window, layout), yOf(notes.pitch[row], window, layout)];
  const isBeside = x < layout.gutter + 10 || x > layout.width - 40;
  const isAbove = y < rollTop(layout) || y + window.rowHeight > rollTop(layout) + rollHeight(layout);
  if (!isBeside && !isAbove) return window;
  return {
    ...window,
    ...(isBeside ? { tick: notes.start[row] - rollWidth(layout) * 0.3 * window.ticksPerPixel } : {}),
    ...(isAbove
      ? { topPitch: topBelow(notes.pitch[row], -rollHeight(layout) / window.rowHeight / 2, layout) }
      : {}),
  };
}

/** The window turned like a page when the play line leaves it; the very same while it is in sight. */
export function toFollow(window: EditorWindow, layout: Layout, tick: number): EditorWindow {
  const x = xOf(tick, window, layout);
  if (x <= layout.width - 30 && x >= layout.gutter) return window;
  return { ...window, tick: tick - rollWidth(layout) * 0.08 * window.ticksPerPixel };
}
