import type { NoteTable } from '../model';

/**
 * A note (row of the first table) and a later or equal one of its pitch and channel (row of the second) that begins
 * before it ends.
 */
export interface Overlap {
  row: number;
  other: number;
  /** The later one ends first, or both begin at one tick: another reader cannot tell whose end is whose. */
  nested: boolean;
}

const keyOf = ({ channel, pitch }: NoteTable, row: number) => channel[row] * 128 + pitch[row];

/**
 * Pairs of notes of one pitch and channel that sound at once, each with the latest-ending one before it, in order of
 * the later start. Ticks are compared rounded, as they are written.
 */
export function overlapsWithin(notes: NoteTable): Overlap[] {
  const open = new Int32Array(2048).fill(-1);
  const found: Overlap[] = [];
  for (let row = 0; row < notes.length; row++) {
    const key = keyOf(notes, row);
    const before = open[key];
    if (before >= 0 && Math.round(notes.end[before]) > Math.round(notes.start[row]))
      found.push({ row: before, other: row, nested: isNested(notes, before, notes, row) });
    if (before < 0 || notes.end[row] >= notes.end[before]) open[key] = row;
  }
  return found;
}

function isNested(a: NoteTable, row: number, b: NoteTable, other: number): boolean {
  return (
    Math.round(b.end[other]) < Math.round(a.end[row]) ||
    Math.round(a.start[row]) === Math.round(b.start[other])
  );
}

/**
 * Pairs of notes of one pitch, one of either table, that sound at once, by rows of each. Channels are not looked at:
 * both are on one.
 */
export function overlapsBetween(a: NoteTable, b: NoteTable): { row: number; other: number }[] {
  const found: { row: number; other: number }[] = [];
  const open: { a: Int32Array; b: Int32Array } = {
    a: new Int32Array(128).fill(-1),
    b: new Int32Array(128).fill(-1),
  };
  for (let row = 0, other = 0; row < a.length || other < b.length;) {
    const isA = other >= b.length || (row < a.length && a.start[row] <= b.start[other]);
    const [own, theirs, at] = isA ? [a, b, row] : [b, a, other];
    const pitch = own.pitch[at];
    const mine = isA ? open.a : open.b;
    const sounding = (isA ? open.b : open.a)[pitch];
    if (sounding >= 0 && Math.round(theirs.end[sounding]) > Math.round(own.start[at]))
      found.push(isA ? { row: at, other: sounding } : { row: sounding, other: at });
    if (mine[pitch] < 0 || own.end[at] >= own.end[mine[pitch]]) mine[pitch] = at;
    if (isA) row++;
    else other++;
  }
  return found;
}
