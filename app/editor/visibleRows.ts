import { firstAtOrAfter } from '@ordle/core';
import type { ViewNotes } from '@/engine/protocol';

/** Rows from `first` up to `end` hold every note that reaches into from..to (and some that do not). */
export function visibleRows(notes: ViewNotes, from: number, to: number): { first: number; end: number } {
  return { first: firstAtOrAfter(notes.reach, from), end: firstAtOrAfter(notes.start, to) };
}

/** The row of the note at a place, the one that starts last where several lie over each other; -1 where there is none. */
export function noteAtPlace(notes: ViewNotes, tick: number, pitch: number, slack: number): number {
  const { first, end } = visibleRows(notes, tick - slack, tick + slack);
  for (let row = end - 1; row >= first; row--) {
    if (notes.pitch[row] === pitch && notes.start[row] - slack <= tick && notes.end[row] + slack >= tick)
      return row;
  }
  return -1;
}
