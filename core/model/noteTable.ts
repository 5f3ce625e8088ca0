/**
 * Notes as columns, one row a note, sorted by start. `id` as in `noteIds.ts`. `start` and `end` are ticks (real
 * numbers inside evaluation, rounded once at the edge), `pitch` 0-127, `velocity` real and clamped to 1-127 at the
 * edge, `release` 0-127, `channel` 0-15. Tables are never changed once built; a step makes a new one and may share
 * columns.
 *
 * @public
 */
export interface NoteTable {
  readonly length: number;
  readonly id: Float64Array;
  readonly start: Float64Array;
  readonly end: Float64Array;
  readonly pitch: Uint8Array;
  readonly velocity: Float64Array;
  readonly release: Uint8Array;
  readonly channel: Uint8Array;
}

/** A note as a plain object, for tests, forms and hand edits; never used for whole parts. */
export interface Note {
  id: number;
  start: number;
  end: number;
  pitch: number;
  velocity: number;
  release: number;
  channel: number;
}

export function emptyNoteTable(length = 0): NoteTable {
  return {
    length,
    id: new Float64Array(length),
    start: new Float64Array(length),
    end: new Float64Array(length),
    pitch: new Uint8Array(length),
    velocity: new Float64Array(length),
    release: new Uint8Array(length),
    channel: new Uint8Array(length),
  };
}

/**
 * The same rows with some columns replaced; the others are shared. Always by this function, so that all tables have
 * one shape in memory: the loops over them are compiled once and stay so.
 */
export function withColumns(table: NoteTable, columns: Partial<Omit<NoteTable, 'length'>>): NoteTable {
  return {
    length: table.length,
    id: columns.id ?? table.id,
    start: columns.start ?? table.start,
    end: columns.end ?? table.end,
    pitch: columns.pitch ?? table.pitch,
    velocity: columns.velocity ?? table.velocity,
    release: columns.release ?? table.release,
    channel: columns.channel ?? table.channel,
  };
}

/** A table from plain notes, sorted by start; missing fields get middle C, velocity 80, release 64, channel 1. */
export function noteTableOf(notes: readonly Partial<Note>[]): NoteTable {
  const table = emptyNoteTable(notes.length);
  notes.forEach((note, row) => {
    const start = note.start ?? 0;
    table.id[row] = note.id ?? row;
    table.start[row] = start;
    table.end[row] = note.end ?? start + 1;
    table.pitch[row] = note.pitch ?? 60;
    table.velocity[row] = note.velocity ?? 80;
    table.release[row] = note.release ?? 64;
    table.channel[row] = note.channel ?? 0;
  });
  return sortedByStart(table);
}

/** One row as an object. */
export function noteAt(table: NoteTable, row: number): Note {
  return {
    id: table.id[row],
    start: table.start[row],
    end: table.end[row],
    pitch: table.pitch[row],
    velocity: table.velocity[row],
    release: table.release[row],
    channel: table.channel[row],
  };
}

/** The rows named by `rows`, in that order, as a new table. */
export function pickRows(table: NoteTable, rows: ArrayLike<number>): NoteTable {
  const picked = emptyNoteTable(rows.length);
  for (let index = 0; index < rows.length; index++) {
    const row = rows[index];
    picked.id[index] = table.id[row];
    picked.start[index] = table.start[row];
    picked.end[index] = table.end[row];
    picked.pitch[index] = table.pitch[row];
    picked.velocity[index] = table.velocity[row];
    picked.release[index] = table.release[row];
    picked.channel[index] = table.channel[row];
  }
  return picked;
}

/** Several tables one after the other, sorted by start (stable: earlier tables first on equal starts). */
export function joinTables(tables: readonly NoteTable[]): NoteTable {
  if (tables.length === 1) return tables[0];
  const joined = emptyNoteTable(tables.reduce((sum, table) => sum + table.length, 0));
  let at = 0;
  for (const table of tables) {
    joined.id.set(table.id, at);
    joined.start.set(table.start, at);
    joined.end.set(table.end, at);
    joined.pitch.set(table.pitch, at);
    joined.velocity.set(table.velocity, at);
    joined.release.set(table.release, at);
    joined.channel.set(table.channel, at);
    at += table.length;
  }
  return sortedByStart(joined);
}

/**
 * The table with rows in order of start; the very same table when it already is. Stable. Steps disturb the order only
 * locally, so rows are first moved into place one by one within a budget; a merge sort takes over when the disorder
 * is wide. `ownsTimes` says that `start` and `end` were made by the caller and nobody else holds them: they are then
 * sorted in place.
 */
export function sortedByStart(table: NoteTable, ownsTimes = false): NoteTable {
  const row = firstOutOfOrder(table.start, 1);
  if (row >= table.length) return table;
  const sorted = copyOf(table, ownsTimes);
  if (putInPlace(sorted, row)) return sorted;
  const times = sorted.start;
  // By now `sorted` is the only copy whose columns agree with each other.
  return pickRows(
    sorted,
    mergeOrder(sorted.length, (left, right) => times[left] - times[right]),
  );
}

/** The first row from `row` on that starts before the one before it; the number of rows where none does. */
function firstOutOfOrder(start: Float64Array, row: number): number {
  while (row < start.length && start[row - 1] <= start[row]) row++;
  return row;
}

/**
 * Moves each row that is out of order, the first being `row`, to its place; false, and left half done, where that
 * would be too much work.
 */
function putInPlace(table: NoteTable, row: number): boolean {
  const { start, length } = table;
  let budget = 4 * length;
  while (row < length) {
    const value = start[row];
    let to = row - 1;
    while (to > 0 && start[to - 1] > value) to--;
    budget -= row - to;
    if (budget < 0) return false;
    moveRow(table, row, to);
    row = firstOutOfOrder(start, row + 1);
  }
  return true;
}

function copyOf(table: NoteTable, ownsTimes: boolean): NoteTable {
  return {
    length: table.length,
    id: table.id.slice(),
    start: ownsTimes ? table.start : table.start.slice(),
    end: ownsTimes ? table.end : table.end.slice(),
    pitch: table.pitch.slice(),
    velocity: table.velocity.slice(),
    release: table.release.slice(),
    channel: table.channel.slice(),
  };
}

/**
 * Takes a row out and puts it back at `to` < `row`, the rows between moving up. Only for a table nobody else holds
 * yet.
 */
function moveRow(table: NoteTable, row: number, to: number) {
  moveTo(table.id, row, to);
  moveTo(table.start, row, to);
  moveTo(table.end, row, to);
  moveTo(table.velocity, row, to);
  moveByte(table.pitch, row, to);
  moveByte(table.release, row, to);
  moveByte(table.channel, row, to);
}

// Two functions, as each is compiled for one type of column.
function moveTo(column: Float64Array, row: number, to: number) {
  const value = column[row];
  for (let at = row; at > to; at--) column[at] = column[at - 1];
  column[to] = value;
}
function moveByte(column: Uint8Array, row: number, to: number) {
  const value = column[row];
  for (let at = row; at > to; at--) column[at] = column[at - 1];
  column[to] = value;
}

/** Stable order of the rows 0..length-1 by a comparison: bottom-up merge sort, no allocation per row. */
export function mergeOrder(length: number, compare: (a: number, b: number) => number): Uint32Array {
  let from = new Uint32Array(length);
  let to = new Uint32Array(length);
  for (let row = 0; row < length; row++) from[row] = row;
  for (let width = 1; width < length; width *= 2) {
    for (let low = 0; low < length; low += 2 * width) {
      const middle = Math.min(low + width, length);
      const high = Math.min(low + 2 * width, length);
      let left = low;
      let right = middle;
      for (let at = low; at < high; at++) {
        const takeLeft = left < middle && (right >= high || compare(from[left], from[right]) <= 0);
        to[at] = takeLeft ? from[left++] : from[right++];
      }
    }
    [from, to] = [to, from];
  }
  return from;
}
