import type { PartView } from '@ordle/core';
import { selectedRows } from '@/state/selection';
import type { EditorContent } from './editorTypes';
import { rowsAt } from './pitchIndex';

/** The parts that are shown behind the one that is worked on: what of them lies where, and what is selected. */

type Others = EditorContent['others'];

/** A note of another part, by part and id. */
export interface OtherNote {
  partId: string;
  id: number;
}

/** The note of another part at a place; the first shown that has one. `slack` in ticks. */
export function otherNoteAt(others: Others, tick: number, pitch: number, slack: number): OtherNote | null {
  for (const { partId, view } of others) {
    const [row] = rowsAt(view.notes, tick, pitch, slack);
    if (row !== undefined) return { partId, id: view.notes.id[row] };
  }
  return null;
}

/** Ids of the notes of each that `pick` names. */
export const idsInOthers = (others: Others, pick: (view: PartView) => number[]) =>
  others.map(({ partId, view }) => [partId, pick(view)] as const);

/** Rows that are selected, one byte a note, by part; only of parts that are shown. */
export function selectedInOthers(
  others: Others,
  ids: ReadonlyMap<string, ReadonlySet<number>>,
): ReadonlyMap<string, Uint8Array> {
  const rows = new Map<string, Uint8Array>();
  for (const { partId, view } of others) {
    const own = ids.get(partId);
    if (own) rows.set(partId, selectedRows(view.notes.id, own));
  }
  return rows;
}

/** Where the first selected note of them starts, in ticks; infinity where none is. */
export function leastStartInOthers(others: Others, selected: ReadonlyMap<string, Uint8Array>): number {
  let least = Infinity;
  for (const { partId, view } of others) {
    const row = selected.get(partId)?.indexOf(1) ?? -1;
    if (row >= 0) least = Math.min(least, view.notes.start[row]);
  }
  return least;
}
