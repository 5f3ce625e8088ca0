import { placeIn, type StraightMap } from './placing';
import {
  MAX_NOTE_ID,
  createSha256,
  indexIds,
  pickRows,
  sortedByStart,
  unnamedId,
  type IdIndex,
  type NoteTable,
} from '../model';
import type { AddedNote, NoteChange } from './edits';

/**
 * Hand edits of many notes as columns, a row a note. `fields` says which of the others count: bits as below. Never
 * changed once made.
 */
export interface EditColumns {
  readonly id: Float64Array;
  readonly fields: Uint8Array;
  readonly start: Float64Array;
  readonly end: Float64Array;
  readonly pitch: Uint8Array;
  readonly velocity: Float64Array;
  /** 1-16, as in a change. */
  readonly channel: Uint8Array;
}

/** Columns under the key of their content, by which a document names them. */
export interface EditTable extends EditColumns {
  readonly key: string;
}

const [START, END, PITCH, VELOCITY, CHANNEL, GONE] = [1, 2, 4, 8, 16, 32];

/** Columns in the order in which they make their key. */
export const columnsInOrder = ({ id, fields, start, end, pitch, velocity, channel }: EditColumns) => [
  id,
  fields,
  start,
  end,
  pitch,
  velocity,
  channel,
];

/** The key of columns by their digest: the number of the formula, and SHA-256 as hexadecimal digits. */
export const keyOfDigest = (digest: string): string => `2:${digest}`;

/** The key of some columns: their bytes, one column after the other, digested. */
export function keyOfColumns(columns: EditColumns): string {
  const hash = createSha256();
  for (const { buffer, byteOffset, byteLength } of columnsInOrder(columns))
    hash.update(new Uint8Array(buffer, byteOffset, byteLength));
  return keyOfDigest(hash.digest());
}

/** Why columns that came from outside cannot be hand edits; null where they can. */
export function faultOfColumns(columns: EditColumns): string | null {
  const { id, fields, start, end, pitch, velocity, channel } = columns;
  if (columnsInOrder(columns).some(({ length }) => length !== id.length))
    return 'its columns are not of one length';
  const isPlace = (tick: number) => tick >= 0 && tick <= Number.MAX_SAFE_INTEGER;
  const seen = new Set<number>();
  for (let row = 0; row < id.length; row++) {
    const bits = fields[row];
    if (!Number.isInteger(id[row]) || id[row] < 0 || id[row] > MAX_NOTE_ID || seen.has(id[row]))
      return `row ${row + 1} is of no note, or of one another row is of`;
    seen.add(id[row]);
    if (bits === 0 || bits >= 2 * GONE) return `row ${row + 1} says nothing that can be done`;
    const isSound =
      (!(bits & START) || isPlace(start[row])) &&
      (!(bits & END) || isPlace(end[row])) &&
      (!(bits & PITCH) || pitch[row] < 128) &&
      (!(bits & VELOCITY) || (velocity[row] >= 1 && velocity[row] <= 127)) &&
      (!(bits & CHANNEL) || (channel[row] >= 1 && channel[row] <= 16));
    if (!isSound) return `row ${row + 1} holds a value that cannot be there`;
  }
  return null;
}

/** Edits of more notes than this are kept as columns. */
export const MOST_INLINE = 1000;

function emptyColumns(length: number): EditColumns {
  return {
    id: new Float64Array(length),
    fields: new Uint8Array(length),
    start: new Float64Array(length),
    end: new Float64Array(length),
    pitch: new Uint8Array(length),
    velocity: new Float64Array(length),
    channel: new Uint8Array(length),
  };
}

function write(
  columns: EditColumns,
  row: number,
  { start, end, pitch, velocity, channel }: NoteChange,
): void {
  if (start !== undefined) columns.start[row] = start;
  if (end !== undefined) columns.end[row] = end;
  if (pitch !== undefined) columns.pitch[row] = pitch;
  if (velocity !== undefined) columns.velocity[row] = velocity;
  if (channel !== undefined) columns.channel[row] = channel;
  columns.fields[row] |=
    (start === undefined ? 0 : START) |
    (end === undefined ? 0 : END) |
    (pitch === undefined ? 0 : PITCH) |
    (velocity === undefined ? 0 : VELOCITY) |
    (channel === undefined ? 0 : CHANNEL);
}

/** What is done to each of some notes as columns; their change is asked for once each. */
export function changeColumns<T extends { id: number }>(
  notes: readonly T[],
  changeOf: (note: T) => NoteChange,
): EditColumns {
  const columns = emptyColumns(notes.length);
  for (let row = 0; row < notes.length; row++) {
    columns.id[row] = notes[row].id;
    write(columns, row, changeOf(notes[row]));
  }
  return columns;
}

/** Changes by id, and deletions, as columns. */
export function columnsOf(
  change: Readonly<Record<string, NoteChange>>,
  deleted: readonly number[],
): EditColumns {
  const ids = Object.keys(change);
  const columns = emptyColumns(ids.length + deleted.length);
  ids.forEach((id, row) => {
    columns.id[row] = Number(id);
    write(columns, row, change[id]);
  });
  deleted.forEach((id, at) => {
    columns.id[ids.length + at] = id;
    columns.fields[ids.length + at] = GONE;
  });
  return columns;
}

const indices = new WeakMap<EditColumns, IdIndex>();

function indexOf(columns: EditColumns): IdIndex {
  const known = indices.get(columns) ?? indexIds(columns.id);
  indices.set(columns, known);
  return known;
}

/** What some columns do to a note; "deleted" where they take it away, undefined where they do not speak of it. */
export function columnEditOf(columns: EditColumns, id: number): NoteChange | 'deleted' | undefined {
  const row = indexOf(columns).rowOf(id);
  return row < 0 ? undefined : editAt(columns, row);
}

function editAt(columns: EditColumns, row: number): NoteChange | 'deleted' {
  const fields = columns.fields[row];
  if (fields & GONE) return 'deleted';
  const change: NoteChange = {};
  if (fields & START) change.start = columns.start[row];
  if (fields & END) change.end = columns.end[row];
  if (fields & PITCH) change.pitch = columns.pitch[row];
  if (fields & VELOCITY) change.velocity = columns.velocity[row];
  if (fields & CHANNEL) change.channel = columns.channel[row];
  return change;
}

/** Columns by the map their ticks are read through; neither ever changes. */
const placedOnes = new WeakMap<EditColumns, WeakMap<StraightMap, EditColumns>>();

/** Columns with their ticks where a map puts them, at the start at the earliest; the very same without one. */
export function placedColumns(columns: EditColumns, places: StraightMap | undefined): EditColumns {
  if (places === undefined) return columns;
  const byMap = placedOnes.get(columns) ?? new WeakMap<StraightMap, EditColumns>();
  placedOnes.set(columns, byMap);
  const known = byMap.get(places);
  if (known) return known;
  const place = (tick: number) => Math.max(0, placeIn(places, tick));
  const { id, fields, start, end, pitch, velocity, channel } = columns;
  const made = { id, fields, start: start.map(place), end: end.map(place), pitch, velocity, channel };
  byMap.set(places, made);
  return made;
}

/** Columns speaking of the same notes by other ids; where two become one the later counts. */
export function renamedColumns(columns: EditColumns, idOf: (id: number) => number): EditColumns {
  const renamed = { ...columns, id: columns.id.map(idOf) };
  const last = new Map(Array.from(renamed.id, (id, row) => [id, row]));
  return last.size === renamed.id.length
    ? renamed
    : pickColumns(
        renamed,
        rowsWhere(renamed, (id, row) => last.get(id) === row),
      );
}

/** How many notes columns change, and how many they delete. */
export function countOfColumns({ fields }: EditColumns): { changed: number; deleted: number } {
  let deleted = 0;
  for (const bits of fields) if (bits & GONE) deleted++;
  return { changed: fields.length - deleted, deleted };
}

/** Columns as plain changes and deletions. */
export function inlineEdits(columns: EditColumns): { change: Record<string, NoteChange>; delete: number[] } {
  const edits = { change: {} as Record<string, NoteChange>, delete: [] as number[] };
  for (let row = 0; row < columns.id.length; row++) {
    const edit = editAt(columns, row);
    if (edit === 'deleted') edits.delete.push(columns.id[row]);
    else edits.change[String(columns.id[row])] = edit;
  }
  return edits;
}

/** Ids of the notes that columns change. */
export function changedIds({ id, fields }: EditColumns): Float64Array {
  return id.filter((_, row) => (fields[row] & GONE) === 0);
}

const NO_ROWS = new Uint32Array(0);

/** The rows of columns for which a test holds. */
function rowsWhere({ id }: EditColumns, test: (id: number, row: number) => boolean): Uint32Array {
  const rows = new Uint32Array(id.length);
  let count = 0;
  for (let row = 0; row < id.length; row++) if (test(id[row], row)) rows[count++] = row;
  return rows.subarray(0, count);
}

/** The rows of columns but for those of some notes. */
const rowsWithout = (columns: EditColumns, isOne: (id: number) => boolean): Uint32Array =>
  rowsWhere(columns, (id) => !isOne(id));

/**
 * Later columns written into earlier ones, so that applying the result is applying both. Changes of notes in `added`,
 * and deletions of them, are written there instead: `added` comes back as it is afterwards.
 */
export function mergeColumns(
  earlier: EditColumns | null,
  later: EditColumns,
  added: readonly AddedNote[],
): { columns: EditColumns; added: AddedNote[] } {
  if (earlier && added.length === 0 && isOfSame(earlier, later))
    return { columns: mergeRowByRow(earlier, later), added: [] };
  const [last, first] = [indexOf(later), earlier && indexOf(earlier)];
  const own = new Set<number>();
  const notes = added.flatMap((note, place): AddedNote[] => {
    const id = note.id ?? unnamedId(place);
    const edit = columnEditOf(later, id);
    if (edit === undefined) return [{ ...note, id }];
    own.add(id);
    return edit === 'deleted' ? [] : [{ ...note, ...edit, id }];
  });
  const kept = earlier ? rowsWithout(earlier, (id) => last.has(id)) : NO_ROWS;
  const columns = emptyColumns(kept.length + later.id.length - own.size);
  let at = 0;
  const copy = (from: EditColumns, row: number, fields: number) => {
    columns.id[at] = from.id[row];
    columns.fields[at] |= fields;
    if (fields & START) columns.start[at] = from.start[row];
    if (fields & END) columns.end[at] = from.end[row];
    if (fields & PITCH) columns.pitch[at] = from.pitch[row];
    if (fields & VELOCITY) columns.velocity[at] = from.velocity[row];
    if (fields & CHANNEL) columns.channel[at] = from.channel[row];
  };
  for (const row of kept) {
    if (earlier) copy(earlier, row, earlier.fields[row]);
    at++;
  }
  for (let row = 0; row < later.id.length; row++) {
    if (own.size > 0 && own.has(later.id[row])) continue;
    const before = earlier && first ? first.rowOf(later.id[row]) : -1;
    const fields = later.fields[row];
    // What is deleted needs no change any more, whichever came first.
    if (earlier && before >= 0 && !(fields & GONE)) copy(earlier, before, earlier.fields[before]);
    columns.id[at] = later.id[row];
    if (earlier && before >= 0 && earlier.fields[before] & GONE) columns.fields[at] = GONE;
    else copy(later, row, fields);
    at++;
  }
  return { columns, added: notes };
}

/**
 * Whether both speak of the same notes in the same order and delete none, as when a selection is moved again and
 * again.
 */
function isOfSame(earlier: EditColumns, later: EditColumns): boolean {
  if (earlier.id.length !== later.id.length) return false;
  for (let row = 0; row < later.id.length; row++)
    if (earlier.id[row] !== later.id[row] || (earlier.fields[row] | later.fields[row]) & GONE) return false;
  return true;
}

function mergeRowByRow(earlier: EditColumns, later: EditColumns): EditColumns {
  const columns: EditColumns = {
    id: later.id,
    fields: earlier.fields.slice(),
    start: earlier.start.slice(),
    end: earlier.end.slice(),
    pitch: earlier.pitch.slice(),
    velocity: earlier.velocity.slice(),
    channel: earlier.channel.slice(),
  };
  for (let row = 0; row < later.id.length; row++) {
    const fields = later.fields[row];
    columns.fields[row] |= fields;
    if (fields & START) columns.start[row] = later.start[row];
    if (fields & END) columns.end[row] = later.end[row];
    if (fields & PITCH) columns.pitch[row] = later.pitch[row];
    if (fields & VELOCITY) columns.velocity[row] = later.velocity[row];
    if (fields & CHANNEL) columns.channel[row] = later.channel[row];
  }
  return columns;
}

/** Columns without what they say of some notes. */
export const withoutIds = (columns: EditColumns, ids: ReadonlySet<number>): EditColumns =>
  pickColumns(
    columns,
    rowsWithout(columns, (id) => ids.has(id)),
  );

function pickColumns(columns: EditColumns, kept: Uint32Array): EditColumns {
  const picked = emptyColumns(kept.length);
  kept.forEach((row, at) => {
    picked.id[at] = columns.id[row];
    picked.fields[at] = columns.fields[row];
    picked.start[at] = columns.start[row];
    picked.end[at] = columns.end[row];
    picked.pitch[at] = columns.pitch[row];
    picked.velocity[at] = columns.velocity[row];
    picked.channel[at] = columns.channel[row];
  });
  return picked;
}

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
    if (fields & START) edited.start[row] = columns.start[at];
    if (fields & END) edited.end[row] = columns.end[at];
    if (fields & PITCH) edited.pitch[row] = columns.pitch[at];
    if (fields & VELOCITY) edited.velocity[row] = columns.velocity[at];
    if (fields & CHANNEL) edited.channel[row] = columns.channel[at] - 1;
    edited.end[row] = Math.max(edited.end[row], edited.start[row] + 1);
  }
  return sortedByStart(edited, true);
}
