import { drumFamily } from '../midi';
import type { NoteTable } from '../model';
import type { NoteChange, NoteEdits } from '../steps';
import { secondsToTicks, ticksToSeconds, type Timeline } from '../time';
import { noEdits } from './mergeEdits';

/**
 * How far before its main stroke a grace stroke is put that came to lie on it: within what is heard as a flam (common
 * practice: 20 to 40 ms).
 */
const FLAM_SECONDS = 0.03;

type Notes = Pick<NoteTable, 'length' | 'id' | 'start' | 'end' | 'pitch' | 'velocity' | 'channel'>;

/** What some notes came to lie on: pairs of rows. */
export interface Collisions {
  /** A softer stroke at the very tick of a louder one of its instrument. */
  flams: { grace: number; main: number }[];
  /** Two notes of one pitch at one tick. */
  doubles: { shorter: number; longer: number }[];
  /** A note that begins before another of its pitch has ended. */
  overlaps: { earlier: number; later: number }[];
}

export const countOfCollisions = ({ flams, doubles, overlaps }: Collisions): number =>
  flams.length + doubles.length + overlaps.length;

/**
 * What the selected notes (a byte a row) and the others do to each other; what either do among themselves was so
 * before.
 */
export function collisionsOf(notes: Notes, selected: Uint8Array, isDrums: boolean): Collisions {
  const { start, end, pitch, channel } = notes;
  const found: Collisions = { flams: [], doubles: [], overlaps: [] };
  // Where all were moved there are no others.
  if (!selected.includes(0) || !selected.includes(1)) return found;
  /** Rows that may still sound, or stand at this tick, by channel and pitch or family. */
  const open = new Map<number, number[]>();
  for (let row = 0; row < notes.length; row++) {
    const key = channel[row] * 256 + (isDrums ? drumFamily(pitch[row]) : pitch[row]);
    const at = Math.round(start[row]);
    let rows = open.get(key);
    if (!rows) open.set(key, (rows = []));
    let left = 0;
    for (const before of rows) {
      if (Math.round(end[before]) <= at && Math.round(start[before]) !== at) continue;
      rows[left++] = before;
      if (selected[before] !== selected[row]) collide(notes, before, row, isDrums, found);
    }
    rows.length = left;
    rows.push(row);
  }
  return found;
}

function collide(notes: Notes, before: number, row: number, isDrums: boolean, found: Collisions) {
  const { start, end, pitch, velocity } = notes;
  const isAtOnce = Math.round(start[before]) === Math.round(start[row]);
  if (isAtOnce && isDrums) {
    const [grace, main] = velocity[before] <= velocity[row] ? [before, row] : [row, before];
    found.flams.push({ grace, main });
  } else if (pitch[before] !== pitch[row]) return;
  else if (isAtOnce) {
    const [shorter, longer] = end[before] <= end[row] ? [before, row] : [row, before];
    found.doubles.push({ shorter, longer });
  } else found.overlaps.push({ earlier: before, later: row });
}

/**
 * Puts it right: a grace stroke goes a little before its main stroke, of doubles the longer stays, and what reaches
 * into the next ends where that begins.
 */
export function mendCollisions(
  { id, start, end }: Notes,
  { flams, doubles, overlaps }: Collisions,
  { tempo }: Timeline,
): NoteEdits {
  const change: Record<string, NoteChange> = {};
  for (const { earlier, later } of overlaps) {
    const known = change[id[earlier]]?.end ?? end[earlier];
    change[id[earlier]] = { end: Math.max(start[earlier] + 1, Math.min(known, start[later])) };
  }
  for (const { grace, main } of flams) {
    const before = ticksToSeconds(tempo, start[main]) - FLAM_SECONDS;
    const at = Math.max(0, Math.round(secondsToTicks(tempo, before)));
    change[id[grace]] = { start: at, end: at + Math.max(1, end[grace] - start[grace]) };
  }
  const gone = doubles.map(({ shorter }) => id[shorter]);
  for (const each of gone) delete change[each];
  return { ...noEdits(), change, delete: [...new Set(gone)] };
}
