import {
  columnsOf,
  countOfColumns,
  mergeColumns,
  placedColumns,
  type AddedNote,
  type EditColumns,
  type EditTable,
  type EditsStep,
  type NoteEdits,
} from '@ordle/core';
import { engine } from '@/engine/engineClient';
import { loadTable, rememberTable, tableOf } from '@/storage/editTables';

/** What a step of hand edits holds after edits of many notes were merged into it. */
export interface MergedEdits {
  table: NonNullable<EditsStep['table']>;
  add: AddedNote[];
}

const inlineColumns = ({ change, delete: gone }: Pick<NoteEdits, 'change' | 'delete'>): EditColumns =>
  columnsOf(change, gone);

/**
 * Columns under their key, kept by this page until they are stored, and known to the engine before any document names
 * them.
 */
export async function keepColumns(columns: EditColumns): Promise<EditTable> {
  // An engine that breaks off is told of what is not stored when it is started anew.
  const table = await engine.nameColumns(columns).then(
    (key) => ({ ...columns, key }),
    () => tableOf(columns),
  );
  rememberTable(table);
  return table;
}

/**
 * Merges edits into a step as columns: 100,000 edits are one reference in the document. Throws as reading a table
 * does.
 */
export async function mergedAsTable(step: EditsStep, made: NoteEdits): Promise<MergedEdits> {
  const base = step.table ? placedColumns(await loadTable(step.table.key), step.table.places) : null;
  const inline = inlineColumns(step);
  const earlier = base && inline.id.length > 0 ? mergeColumns(base, inline, []).columns : (base ?? inline);
  const single = inlineColumns(made);
  const later = made.columns
    ? single.id.length > 0
      ? mergeColumns(made.columns, single, []).columns
      : made.columns
    : single;
  const { columns, added } = mergeColumns(earlier, later, step.add);
  const table = await keepColumns(columns);
  return { table: { key: table.key, ...countOfColumns(columns) }, add: [...added, ...made.add] };
}
