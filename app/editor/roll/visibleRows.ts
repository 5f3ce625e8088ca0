import { firstAtOrAfter, type ViewNotes } from '@ordle/core';

/** Rows from `first` up to `end` hold every note that reaches into from..to (and some that do not). */
export function visibleRows(notes: ViewNotes, from: number, to: number): { first: number; end: number } {
  return { first: firstAtOrAfter(notes.reach, from), end: firstAtOrAfter(notes.start, to) };
}
