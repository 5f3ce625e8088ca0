import { pickRows, sortedByStart, type NoteTable } from '../model';
import { CHANNEL, GONE, copyValues, indexOf, type EditColumns } from './editTable';

/**
 * The notes with columns written over them, row by row without an object a note; the very same table where none is
 * there.
 */
export function editedByColumns(notes: NoteTable, columns: EditColumns, touched: Uint8Array): NoteTable {
  const index = indexOf(columns);
  const rows = new Int32Array(notes.length).fill(-1);
  const kept = new Uint32Array(notes.length);
  let [count, found] = [0, 0];
  for (let row = 0; row < notes.length; row++) {
    const at = touched[row] ? index.rowOf(notes.id[row]) : -1;
    if (at >= 0) {
      found++;
      if (columns.fields[at] & GONE) continue;
      rows[count] = at;
    }
    kept[count++] = row;
  }
  if (found === 0) return notes;
  const edited = pickRows(notes, kept.subarray(0, count));
  for (let row = 0; row < count; row++) {
    const at = rows[row];
    if (at < 0) continue;
    const fields = columns.fields[at];
    copyValues(columns, at, edited, row, fields);
    if (fields & CHANNEL) edited.channel[row] -= 1;
    edited.end[row] = Math.max(edited.end[row], edited.start[row] + 1);
  }
  return sortedByStart(edited, true);
}
