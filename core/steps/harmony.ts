import type { NoteTable } from '../model';
import { forEachChord } from './chords';
import type { Timeline } from '../time';

/** A change of harmony sooner after the last than this many quarters is a passing one. */
const LEAST_QUARTERS = 0.5;

/**
 * Ticks at which the harmony changes: where a chord (starts within 30 ms) brings a pitch class that was not heard
 * since the last change and either has several notes, or is the lowest sounding one, as a new bass is. The first
 * chord begins the first harmony.
 */
export function harmonyChanges(notes: NoteTable, timeline: Timeline): number[] {
  const least = LEAST_QUARTERS * timeline.ticksPerQuarter;
  const changes: number[] = [];
  let heard = new Set<number>();
  let bass = Infinity;
  forEachChord(notes, timeline, (first, end) => {
    const classes = new Set<number>();
    let lowest = 127;
    for (let row = first; row < end; row++) {
      classes.add(notes.pitch[row] % 12);
      lowest = Math.min(lowest, notes.pitch[row]);
    }
    const start = notes.start[first];
    const isNew = [...classes].some((each) => !heard.has(each));
    const weighs = classes.size > 1 || lowest <= bass;
    const last = changes.at(-1);
    if (last === undefined || (isNew && weighs && start - last >= least)) {
      changes.push(start);
      heard = classes;
      bass = lowest;
    } else {
      for (const each of classes) heard.add(each);
      bass = Math.min(bass, lowest);
    }
  });
  return changes;
}
