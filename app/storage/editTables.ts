import {
  OrdleError,
  columnsInOrder,
  keyOfColumns,
  keyOfDigest,
  type EditColumns,
  type EditTable,
} from '@ordle/core';
import type { Database } from './database';
import { openDatabase } from './database';

/** The key of some columns, by the browser's own digest where it may be used: that takes a tenth of the time. */
async function keyOf(columns: EditColumns): Promise<string> {
  const subtle = globalThis.crypto?.subtle as SubtleCrypto | undefined;
  if (!subtle) return keyOfColumns(columns);
  const views = columnsInOrder(columns).map(
    ({ buffer, byteOffset, byteLength }) => new Uint8Array(buffer, byteOffset, byteLength),
  );
  const whole = new Uint8Array(views.reduce((sum, { length }) => sum + length, 0));
  let at = 0;
  for (const view of views) {
    whole.set(view, at);
    at += view.length;
  }
  const digest = new Uint8Array(await subtle.digest('SHA-256', whole));
  return keyOfDigest(Array.from(digest, (byte) => byte.toString(16).padStart(2, '0')).join(''));
}

/** Columns put under their key. */
export async function tableOf(columns: EditColumns): Promise<EditTable> {
  const { id, fields, start, end, pitch, velocity, channel } = columns;
  return { key: await keyOf(columns), id, fields, start, end, pitch, velocity, channel };
}

/** Tables made or read in this page, the newest last; old ones that are stored are let go. */
const known = new Map<string, EditTable>();
const unstored = new Set<string>();
const MOST_KNOWN = 12;

/** Keeps a table that was just made; it is stored with the next saving. */
export function rememberTable(table: EditTable): void {
  known.delete(table.key);
  known.set(table.key, table);
  unstored.add(table.key);
}

/** Tables that are not stored yet, for an engine that was started anew. */
export const unstoredTables = (): EditTable[] => [...unstored].flatMap((key) => known.get(key) ?? []);

/** Stores what was made since the last saving. A session is only saved once what it names is. */
export async function storeTables(database: Database): Promise<void> {
  const missing = unstoredTables();
  if (missing.length === 0) return;
  const transaction = database.transaction('tables', 'readwrite');
  const storedAt = Date.now();
  await Promise.all([
    ...missing.map((table) => transaction.store.put({ key: table.key, table, storedAt })),
    transaction.done,
  ]);
  for (const { key } of missing) unstored.delete(key);
  for (const key of known.keys()) {
    if (known.size <= MOST_KNOWN) break;
    if (!unstored.has(key)) known.delete(key);
  }
}

/**
 * Reads a table. Throws OrdleError `edits-missing`, or `edits-damaged` when what is stored is not what its key says.
 */
export async function loadTable(key: string): Promise<EditTable> {
  const kept = known.get(key);
  if (kept) return kept;
  const record = await (await openDatabase()).get('tables', key);
  if (!record)
    throw new OrdleError(
      'edits-missing',
      'Hand edits of this session are no longer in this browser. Undo to before them, or switch their step off.',
    );
  if (record.table?.key !== key || (await keyOf(record.table)) !== key)
    throw new OrdleError(
      'edits-damaged',
      'Hand edits of this session were damaged in this browser’s storage. Undo to before them, or switch their step off.',
    );
  known.set(key, record.table);
  return record.table;
}
