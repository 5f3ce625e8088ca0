import { idOfAdded, mergeCurveEdits, type AddedNote, type NoteChange, type NoteEdits } from '../steps';

export function noEdits(): NoteEdits {
  return { change: {}, delete: [], add: [] };
}

/**
 * Later edits written into earlier ones, so that applying the result is applying both: a change to an added note
 * changes it where it was added, a deleted added note is as if never drawn, and what is deleted needs no change any
 * more.
 */
export function mergeEdits(earlier: NoteEdits, later: NoteEdits): NoteEdits {
  const gone = new Set(later.delete);
  const added = new Map<number, AddedNote>();
  // Notes without an id (from recipes) keep the one they were seen under, whatever becomes of those before them in
  // the list.
  earlier.add.forEach((note, place) => {
    const id = idOfAdded(note, place);
    added.set(id, { ...note, id });
  });
  const change: Record<string, NoteChange> = { ...earlier.change };
  for (const [id, next] of Object.entries(later.change)) {
    const own = added.get(Number(id));
    if (own) added.set(Number(id), { ...own, ...next });
    else change[id] = { ...change[id], ...next };
  }
  for (const id of gone) delete change[id];
  const curves = mergeCurveEdits(earlier.curves ?? [], later.curves ?? []);
  const messages = [...new Set([...(earlier.messages ?? []), ...(later.messages ?? [])])];
  return {
    ...(curves.length > 0 ? { curves } : {}),
    ...(messages.length > 0 ? { messages } : {}),
    change,
    delete: [...new Set([...earlier.delete, ...later.delete.filter((id) => !added.has(id))])],
    add: [...[...added.values()].filter(({ id }) => id === undefined || !gone.has(id)), ...later.add],
  };
}
