import { z } from 'zod';
import {
  MAX_NOTE_ID,
  emptyNoteTable,
  rowsById,
  joinTables,
  pickRows,
  sortedByStart,
  unnamedId,
  type Material,
  type NoteTable,
} from '../model';
import { OrdleError } from '../errors';
import { pickEvents, type EventColumns } from '../midi';
import { columnEditOf, type EditColumns } from './editTable';
import { editedByColumns } from './editedByColumns';
import { placedColumns } from './otherColumns';
import { applyCurveEdits, curveEditSchema } from './curveEdits';
import { withKeyPressure, type Fate } from './keyPressure';
import { placedEdits, renamedEdits } from './movedEdits';
import { stepBase } from './settings';
import { type StepContext, type StepKind, type StepCommon } from './stepKind';

const tick = z.number('must be a number of ticks').min(0, 'must not be below 0').max(Number.MAX_SAFE_INTEGER);
const pitch = z
  .int('must be a whole number, 0 to 127')
  .min(0, 'must be 0 to 127')
  .max(127, 'must be 0 to 127');
const velocity = z
  .number('must be a number, 1 to 127')
  .min(1, 'must be 1 to 127')
  .max(127, 'must be 1 to 127');
const channel = z.int('must be a whole number, 1 to 16').min(1, 'must be 1 to 16').max(16, 'must be 1 to 16');
const noteId = z.int('must be a note id').min(0, 'must be a note id').max(MAX_NOTE_ID, 'must be a note id');

const changeSchema = z.strictObject({
  start: tick.optional(),
  end: tick.optional(),
  pitch: pitch.optional(),
  velocity: velocity.optional(),
  channel: channel.optional(),
});

const addedSchema = z.strictObject({
  id: noteId.optional(),
  start: tick,
  end: tick,
  pitch,
  velocity: velocity.default(80),
  channel: channel.default(1),
  /** Only there where it is not 64, which is what a note without one is released with. */
  release: z
    .int('must be a whole number, 0 to 127')
    .min(0, 'must be 0 to 127')
    .max(127, 'must be 0 to 127')
    .optional(),
});

const schema = z.strictObject({
  kind: z.literal('edits'),
  ...stepBase,
  change: z.record(z.string().regex(/^\d+$/, 'must be a note id'), changeSchema).default({}),
  delete: z.array(noteId, 'must be a list of note ids').default([]),
  add: z.array(addedSchema, 'must be a list of notes').default([]),
  /**
   * Edits of many notes, as columns under the key of their content; what stands in `change` and `delete` comes after
   * them.
   */
  table: z
    .strictObject({
      key: z.string(),
      changed: z.int().min(0),
      deleted: z.int().min(0),
      /** Where its ticks lie now; without it where they say. Each pair rises, on both sides. */
      places: z
        .array(z.tuple([z.number(), z.number()]))
        .min(1)
        .max(1_000_000)
        .refine(
          (places) =>
            places.every(
              ([from, to], at) => at === 0 || (from > places[at - 1][0] && to > places[at - 1][1]),
            ),
          { message: 'must rise, on both sides' },
        )
        .optional(),
    })
    .optional(),
  /** Only there when lanes were edited, so that edits of notes alone stay as they were. */
  curves: z.array(curveEditSchema).optional(),
  /** Ticks at which system exclusive messages are left out; only there when some are. */
  messages: z.array(tick).max(100_000).optional(),
});

export type EditsStep = z.infer<typeof schema>;
/** What hand edits do, without the step around them. */
export type NoteEdits = Pick<EditsStep, 'change' | 'delete' | 'add' | 'curves' | 'messages'> & {
  /** Edits of many notes, before they are put under a key. */
  columns?: EditColumns;
};
export type NoteChange = z.infer<typeof changeSchema>;
export type AddedNote = z.infer<typeof addedSchema>;

/** The id of the note at a place in a step's list of added notes. */
export const idOfAdded = (note: AddedNote, place: number): number => note.id ?? unnamedId(place);

function apply(
  material: Material,
  step: EditsStep,
  { editTable }: StepContext,
  touched: Uint8Array,
): Material {
  const edits = editsById(step, editTable);
  const table = columnsOfStep(step, editTable);
  const isAllOfTable = table && Object.keys(step.change).length + step.delete.length === 0;
  const edited = isAllOfTable
    ? editedByColumns(material.notes, table, touched)
    : editRows(material.notes, edits, touched);
  const followed = withKeyPressure(material.events, material.notes, () =>
    fateOf(material.notes, edits, touched),
  );
  const notes = step.add.length === 0 ? edited : joinTables([edited, addedTable(step.add)]);
  const shaped = step.curves ? applyCurveEdits(followed, step.curves) : followed;
  const events = step.messages ? withoutMessages(shaped, step.messages) : shaped;
  return notes === material.notes && events === material.events ? material : { ...material, notes, events };
}

/** The events without the system exclusive messages at some ticks; the very same where there are none. */
function withoutMessages(events: EventColumns, ticks: readonly number[]): EventColumns {
  const gone = new Set(ticks.map(Math.round));
  const rows = Array.from(events.status.keys()).filter(
    (row) =>
      !(
        (events.status[row] === 0xf0 || events.status[row] === 0xf7) &&
        gone.has(Math.round(events.tick[row]))
      ),
  );
  return rows.length === events.length ? events : pickEvents(events, rows);
}

/**
 * The edits of many notes a step holds, with their ticks where they lie now; undefined where it has none, or they are
 * not loaded.
 */
export function columnsOfStep(
  { table }: Pick<EditsStep, 'table'>,
  tableOf: StepContext['editTable'],
): EditColumns | undefined {
  const columns = table && tableOf?.(table.key);
  return columns && placedColumns(columns, table.places);
}

/** What a step does to each note, by its id. */
type EditsById = (id: number) => NoteChange | 'deleted' | undefined;

/**
 * Looks edits up: those in the step itself, and before them those in its table. Null where the step has none. Throws
 * `edits-missing`.
 */
function editsById(step: EditsStep, tableOf: StepContext['editTable']): EditsById | null {
  const changes = new Map(Object.entries(step.change).map(([id, change]) => [Number(id), change]));
  const deleted = new Set(step.delete);
  if (!step.table)
    return changes.size + deleted.size === 0 ? null : (id) => (deleted.has(id) ? 'deleted' : changes.get(id));
  const table = columnsOfStep(step, tableOf);
  if (!table)
    throw new OrdleError('edits-missing', 'The hand edits of many notes of this part are not loaded.');
  return (id) => {
    const before = columnEditOf(table, id);
    if (before === 'deleted' || deleted.has(id)) return 'deleted';
    const change = changes.get(id);
    return before && change ? { ...before, ...change } : (change ?? before);
  };
}

/** What the edits make of each note, for what goes along with it. */
function fateOf(notes: NoteTable, edits: EditsById | null, touched: Uint8Array): Fate {
  const fate = {
    pitch: notes.pitch.slice(),
    shift: new Float64Array(notes.length),
    gone: new Uint8Array(notes.length),
  };
  for (let row = 0; row < notes.length; row++) {
    const edit = touched[row] ? edits?.(notes.id[row]) : undefined;
    if (edit === undefined) continue;
    if (edit === 'deleted') {
      fate.gone[row] = 1;
      continue;
    }
    if (edit.pitch !== undefined) fate.pitch[row] = edit.pitch;
    // A moved note takes its pressure along; one that was only trimmed, and so lies within what it was, leaves it
    // where it is.
    const [start, end] = [edit.start ?? notes.start[row], edit.end ?? notes.end[row]];
    const isTrimmed = start >= notes.start[row] && end <= notes.end[row];
    if (edit.end !== undefined && !isTrimmed) fate.shift[row] = start - notes.start[row];
  }
  return fate;
}

/** The notes with changes written and deleted ones gone; the very same table when no edit finds its note. */
function editRows(notes: NoteTable, edits: EditsById | null, touched: Uint8Array): NoteTable {
  if (!edits) return notes;
  const kept: number[] = [];
  const changed: [row: number, change: NoteChange][] = [];
  for (let row = 0; row < notes.length; row++) {
    const edit = touched[row] ? edits(notes.id[row]) : undefined;
    if (edit === 'deleted') continue;
    if (edit) changed.push([kept.length, edit]);
    kept.push(row);
  }
  if (changed.length === 0 && kept.length === notes.length) return notes;
  const edited = pickRows(notes, kept);
  for (const [row, change] of changed) {
    if (change.start !== undefined) edited.start[row] = change.start;
    if (change.end !== undefined) edited.end[row] = change.end;
    if (change.pitch !== undefined) edited.pitch[row] = change.pitch;
    if (change.velocity !== undefined) edited.velocity[row] = change.velocity;
    if (change.channel !== undefined) edited.channel[row] = change.channel - 1;
    edited.end[row] = Math.max(edited.end[row], edited.start[row] + 1);
  }
  return sortedByStart(edited);
}

function addedTable(added: readonly AddedNote[]): NoteTable {
  const table = emptyNoteTable(added.length);
  added.forEach((note, row) => {
    table.id[row] = idOfAdded(note, row);
    table.start[row] = note.start;
    table.end[row] = Math.max(note.end, note.start + 1);
    table.pitch[row] = note.pitch;
    table.velocity[row] = note.velocity;
    table.release[row] = note.release ?? 64;
    table.channel[row] = note.channel - 1;
  });
  return sortedByStart(table);
}

/** Ids of notes the step changes or deletes that are not in `notes`: edits that no longer apply. */
export function editsWithoutNote(
  step: EditsStep,
  notes: NoteTable,
  tableOf?: StepContext['editTable'],
): number[] {
  const there = rowsById(notes);
  const lost = new Set(
    [...Object.keys(step.change).map(Number), ...step.delete].filter((id) => !there.has(id)),
  );
  const table = columnsOfStep(step, tableOf);
  for (const id of table?.id ?? []) if (!there.has(id)) lost.add(id);
  return [...lost];
}

function describe(step: EditsStep): string {
  // A note may be spoken of in both places, so what was done to many at once is counted for itself.
  const counts: [number, string][] = [
    [step.table?.changed ?? 0, 'changed at once'],
    [step.table?.deleted ?? 0, 'deleted at once'],
    [Object.keys(step.change).length, 'changed'],
    [step.add.length, 'added'],
    [step.delete.length, 'deleted'],
    [step.curves?.length ?? 0, step.curves?.length === 1 ? 'curve' : 'curves'],
    [step.messages?.length ?? 0, step.messages?.length === 1 ? 'message left out' : 'messages left out'],
  ];
  const words = counts.filter(([count]) => count > 0).map(([count, word]) => `${count} ${word}`);
  return words.length === 0 ? 'none yet' : words.join(', ');
}

/** Whether a step says what a hand did. */
export const isByHand = (step: StepCommon): step is EditsStep => step.kind === 'edits';

/** Changes made by hand, note by note. */
export const edits: StepKind<EditsStep> = {
  kind: 'edits',
  title: 'Hand edits',
  work: 'tidy',
  hint: 'Move, draw, trim and delete notes by hand',
  schema,
  mapTicks: placedEdits,
  mapIds: renamedEdits,
  apply,
  describe,
  measure: () => 'notes',
  movesTime: true,
  byHand: true,
  lostIds: editsWithoutNote,
  idsDrawn: ({ add }) => add.flatMap(({ id }) => id ?? []),
  table: ({ table }) => table?.key,
};
