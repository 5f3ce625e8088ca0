import { unnamedId } from '../model';
import type { AddedNote } from './edits';
import { GONE, columnEditOf, copyValues, emptyColumns, indexOf, type EditColumns } from './editTable';
import { placeIn, type StraightMap } from './placing';

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
    copyValues(from, row, columns, at, fields);
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
    copyValues(later, row, columns, row, fields);
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
