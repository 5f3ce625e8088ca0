import { MAX_NOTE_ID, createSha256, indexIds, type IdIndex } from '../model';
import type { NoteChange } from './edits';

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

const [START, END, PITCH, VELOCITY] = [1, 2, 4, 8];

/** The bit of a row that puts its note on a channel. */
export const CHANNEL = 16;

/** The bit of a row that takes its note away. */
export const GONE = 32;

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

/** Columns of that many rows that say nothing yet. */
export function emptyColumns(length: number): EditColumns {
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

/** Where each note's row is; made once. */
export function indexOf(columns: EditColumns): IdIndex {
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

/** Writes the values that `fields` names of a row into a row of other columns; `fields` there is left to the caller. */
export function copyValues(
  from: EditColumns,
  row: number,
  to: Omit<EditColumns, 'id' | 'fields'>,
  at: number,
  fields: number,
): void {
  if (fields & START) to.start[at] = from.start[row];
  if (fields & END) to.end[at] = from.end[row];
  if (fields & PITCH) to.pitch[at] = from.pitch[row];
  if (fields & VELOCITY) to.velocity[at] = from.velocity[row];
  if (fields & CHANNEL) to.channel[at] = from.channel[row];
}
