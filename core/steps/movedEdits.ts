import type { EditsStep, NoteChange } from './edits';
import { MOST_INLINE, countOfColumns, inlineEdits } from './editTable';
import { placedColumns, renamedColumns } from './otherColumns';
import { mapThen, placeAt, type Placing } from './placing';
import type { NewIds } from './stepKind';

/**
 * Hand edits where everything they say lies now. Those kept as columns stay as they are, and the step says where
 * their ticks lie.
 */
export function placedEdits(step: EditsStep, placing: Placing): EditsStep {
  const place = (tick: number) => placeAt(placing, tick);
  const placed = <Place extends { at: number }>(each: Place): Place => ({ ...each, at: place(each.at) });
  return {
    ...step,
    change: Object.fromEntries(
      Object.entries(step.change).map(([id, { start, end, ...rest }]): [string, NoteChange] => [
        id,
        {
          ...rest,
          ...(start !== undefined && { start: place(start) }),
          ...(end !== undefined && { end: place(end) }),
        },
      ]),
    ),
    add: step.add.map((note) => ({ ...note, start: place(note.start), end: place(note.end) })),
    ...(step.table && { table: { ...step.table, places: mapThen(step.table.places ?? [], placing) } }),
    ...(step.messages && { messages: step.messages.map(place) }),
    ...(step.curves && {
      curves: step.curves.map((curve) => ({
        ...curve,
        from: place(curve.from),
        to: place(curve.to),
        points: curve.points.map(placed),
        ...(curve.line && {
          line: {
            from: placed(curve.line.from),
            to: placed(curve.line.to),
            through: placed(curve.line.through),
          },
        }),
      })),
    }),
  };
}

/**
 * Hand edits speaking of the same notes by other ids. Columns are made anew under a key of their own, or said one by
 * one where there is nowhere to keep them or few are left.
 */
export function renamedEdits(step: EditsStep, ids: NewIds): EditsStep {
  const { table: reference, ...own } = step;
  const said = {
    ...own,
    change: Object.fromEntries(
      Object.entries(own.change).map(([id, change]) => [String(ids.of(Number(id))), change]),
    ),
    delete: own.delete.map((id) => ids.of(id)),
    add: own.add.map((note) => (note.id === undefined ? note : { ...note, id: ids.of(note.id) })),
  };
  const table = reference && ids.table?.(reference.key);
  if (!reference) return said;
  // Not loaded: what it says of notes by their former ids does nothing, and is told as lost.
  if (!table) return { ...said, table: reference };
  const columns = renamedColumns(placedColumns(table, reference.places), (id) => ids.of(id));
  if (ids.named && columns.id.length > MOST_INLINE)
    return { ...said, table: { key: ids.named(columns), ...countOfColumns(columns) } };
  const before = inlineEdits(columns);
  const change: Record<string, NoteChange> = { ...before.change };
  for (const [id, later] of Object.entries(said.change)) change[id] = { ...change[id], ...later };
  const gone = [...new Set([...before.delete, ...said.delete])];
  for (const id of gone) delete change[String(id)];
  return { ...said, change, delete: gone };
}
