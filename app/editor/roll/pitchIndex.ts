import { firstAtOrAfter, type ViewNotes } from '@ordle/core';
import type { EditorWindow } from '@/state/viewSlice';
import { pitchAt, rollHeight, rollTop, tickAt, type Layout } from './geometry';

/**
 * The rows of each pitch in order of start, with the latest end so far: what is under a place is found without
 * looking at others.
 */
interface PitchRows {
  rows: Uint32Array;
  start: Float64Array;
  reach: Float64Array;
}

const indexes = new WeakMap<ViewNotes, PitchRows[]>();

function indexOf(notes: ViewNotes): PitchRows[] {
  const known = indexes.get(notes);
  if (known) return known;
  const counts = new Uint32Array(128);
  for (let row = 0; row < notes.length; row++) counts[notes.pitch[row]]++;
  const index = Array.from(counts, (count): PitchRows => ({
    rows: new Uint32Array(count),
    start: new Float64Array(count),
    reach: new Float64Array(count),
  }));
  const filled = new Uint32Array(128);
  for (let row = 0; row < notes.length; row++) {
    const pitch = notes.pitch[row];
    const at = filled[pitch]++;
    const own = index[pitch];
    own.rows[at] = row;
    own.start[at] = notes.start[row];
    own.reach[at] = at === 0 ? notes.end[row] : Math.max(own.reach[at - 1], notes.end[row]);
  }
  indexes.set(notes, index);
  return index;
}

/** Rows of the notes at a place, the one that starts last first; `slack` ticks around count as on the note. */
export function rowsAt(notes: ViewNotes, tick: number, pitch: number, slack: number): number[] {
  const own = pitch >= 0 && pitch < 128 ? indexOf(notes)[pitch] : undefined;
  if (!own) return [];
  const found: number[] = [];
  for (
    let at = firstAtOrAfter(own.start, tick + slack + 1e-9) - 1;
    at >= 0 && own.reach[at] + slack >= tick;
    at--
  ) {
    if (notes.end[own.rows[at]] + slack >= tick) found.push(own.rows[at]);
  }
  return found;
}

/** Rows of the notes that overlap a box of time and pitches. */
export function rowsInBox(
  notes: ViewNotes,
  from: number,
  to: number,
  lowest: number,
  highest: number,
): number[] {
  const index = indexOf(notes);
  const found: number[] = [];
  for (let pitch = Math.max(0, lowest); pitch <= Math.min(127, highest); pitch++) {
    const own = index[pitch];
    const end = firstAtOrAfter(own.start, to);
    for (let at = firstAtOrAfter(own.reach, from); at < end; at++)
      if (notes.end[own.rows[at]] > from) found.push(own.rows[at]);
  }
  return found;
}

/** The row of the note under a place of the roll; -1 where there is none, and outside of the roll. */
export function rowUnder(
  notes: ViewNotes,
  x: number,
  y: number,
  window: EditorWindow,
  layout: Layout,
): number {
  const inRoll = x >= layout.gutter && y >= rollTop(layout) && y < rollTop(layout) + rollHeight(layout);
  if (!inRoll) return -1;
  const tick = tickAt(x, window, layout);
  return rowsAt(notes, tick, pitchAt(y, window, layout), 3 * window.ticksPerPixel)[0] ?? -1;
}
