import type { NoteTable } from '../model';
import { CHORD_SECONDS, ticksToSeconds, type Timeline } from '../time';

/**
 * Goes through the chords of a table in order of start, each as the range of rows [first, end): starts within 30 ms
 * of the chord's first. A lone note is a chord of one.
 */
export function forEachChord(
  notes: NoteTable,
  { tempo }: Timeline,
  visit: (first: number, end: number) => void,
): void {
  let first = 0;
  while (first < notes.length) {
    const limit = ticksToSeconds(tempo, notes.start[first]) + CHORD_SECONDS;
    let end = first + 1;
    while (end < notes.length && ticksToSeconds(tempo, notes.start[end]) <= limit) end++;
    visit(first, end);
    first = end;
  }
}
