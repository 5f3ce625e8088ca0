import {
  OrdleError,
  SESSION_VERSION,
  readDocument,
  settled,
  SESSION_MINOR,
  versionOf,
  type Session,
} from '@ordle/core';
import {
  countOf,
  emptyHistory,
  historySchema,
  type History,
  type HistoryEntry,
  type Work,
} from '@/history/history';
import type { IDBPTransaction } from 'idb';
import type { Database, EntryRecord, OrdleDatabase, SessionRecord } from './database';
import { ENTRIES_IN_MEMORY, entriesOf, noteEntries, putEntries } from './historyRecords';
import { storageError } from './storageError';
import { summaryRecordOf } from './summary';
import { storeTables } from './editTables';
import { storeRemembered } from './takes';

/**
 * Writes a session and its history in one transaction, after any take of it that could not be stored before. Gives
 * when. `base` is when it was last known to be stored (null: never). Throws OrdleError `session-deleted` when it was
 * deleted meanwhile, else what the browser throws.
 */
export async function writeSession(
  database: Database,
  { document, history }: Work,
  base: number | null,
  changedAt: number,
): Promise<number> {
  await storeRemembered(database, document);
  await storeTables(database);
  const transaction = database.transaction(['sessions', 'summaries', 'entries'], 'readwrite');
  // Told below; without this it would also count as an error nobody met.
  transaction.done.catch(() => undefined);
  const sessions = transaction.objectStore('sessions');
  try {
    const before = await sessions.get(document.id);
    if (base !== null && before === undefined) {
      throw new OrdleError(
        'session-deleted',
        'This session was deleted in another tab, so it could not be saved. Keep it as a copy if you still need it.',
      );
    }
    const record: SessionRecord = {
      id: document.id,
      document,
      minor: SESSION_MINOR,
      changedAt,
      done: countOf(history),
      ...(history.former && { former: history.former }),
    };
    const remember = putEntries(
      transaction,
      database,
      document.id,
      history,
      before?.changedAt ?? null,
      changedAt,
    );
    await Promise.all([
      sessions.put(record),
      transaction.objectStore('summaries').put(summaryRecordOf(record)),
      transaction.done,
    ]);
    remember();
    return changedAt;
  } catch (error) {
    // A full disk shows in the transaction; its parts only say that they were broken off.
    throw error instanceof OrdleError ? error : (transaction.error ?? error);
  }
}

/** A session as it was stored. */
export interface StoredSession extends Work {
  changedAt: number;
}

/**
 * Reads a session and its history in one transaction, checked against their schemas. Throws OrdleError `no-session`,
 * or `session-newer` or `session-unreadable` naming the place, and then leaves what is stored alone. A history that
 * cannot be read is set aside; the document does not depend on it.
 */
export async function readSession(database: Database, id: string): Promise<StoredSession> {
  const transaction = database.transaction(['sessions', 'entries']);
  const [record, kept] = await readTogether(transaction, id).catch((error: unknown) => {
    throw storageError(error);
  });
  if (!record) {
    throw new OrdleError(
      'no-session',
      'There is no such session in this browser. It may have been deleted, or belong to another browser.',
    );
  }
  const changedAt = typeof record.changedAt === 'number' ? record.changedAt : 0;
  const history = readHistory(kept, record);
  // Those of an older version are not stored as they are known from now on.
  if (versionOf(record.document) === SESSION_VERSION) noteEntries(database, id, history, changedAt);
  return { document: documentIn(record), history, changedAt };
}

/**
 * The document of a stored session without its history, checked and brought to the present version. Throws as
 * `readSession`.
 */
export async function readDocumentOf(database: Database, id: string): Promise<Session> {
  const record = await database.get('sessions', id);
  if (!record) throw new OrdleError('no-session', 'There is no such session in this browser.');
  return documentIn(record);
}

/** The document of a record, checked and of the present version. */
const documentIn = ({ document, minor }: SessionRecord): Session =>
  settled(readDocument(minor === undefined ? document : { ...document, minor }));

type Reading = IDBPTransaction<OrdleDatabase, ('sessions' | 'entries')[], 'readonly'>;

/** A session and the last of its actions, as they are at one moment. */
async function readTogether(
  transaction: Reading,
  id: string,
): Promise<[SessionRecord | undefined, EntryRecord[]]> {
  const record = await transaction.objectStore('sessions').get(id);
  const first = Math.max(0, (record?.done ?? 0) - ENTRIES_IN_MEMORY);
  return [record, await transaction.objectStore('entries').getAll(entriesOf(id, first))];
}

/** Actions of a session from one place in their order up to another, not included; fewer where some cannot be read. */
export async function readEntries(
  database: Database,
  id: string,
  from: number,
  to: number,
): Promise<HistoryEntry[]> {
  const record = await database.get('sessions', id);
  const kept = await database.getAll('entries', entriesOf(id, from, to));
  if (!record) return [];
  const read = readHistory(kept, { ...record, done: to });
  return read.earlier === from || from === 0 ? read.done : [];
}

/**
 * The actions that were read with a session. Where the session was stored as a document of an older version, its
 * document is kept, to undo by, and so are its actions' ties to that version. A history that cannot be read is set
 * aside; the document does not depend on it.
 */
function readHistory(
  kept: readonly EntryRecord[],
  { document, done: count = 0, former }: SessionRecord,
): History {
  const version = versionOf(document) ?? SESSION_VERSION;
  const first = kept[0]?.at ?? 0;
  const isWhole = kept.every(({ at }, index) => at === first + index);
  const list = kept.map(({ entry }) => entry);
  const parsed = historySchema.safeParse({
    done: list,
    undone: [],
    former,
  });
  if (!parsed.success || !isWhole || first > count) return emptyHistory();
  const then = (entry: HistoryEntry): HistoryEntry =>
    version === SESSION_VERSION ? entry : { ...entry, version: entry.version ?? version };
  const line = parsed.data.done.map(then);
  const own = version === SESSION_VERSION ? {} : { [version]: document };
  const formers = { ...parsed.data.former, ...own };
  return {
    done: line.slice(0, count - first),
    undone: line.slice(count - first).reverse(),
    ...(Object.keys(formers).length > 0 && { former: formers }),
    ...(first > 0 && { earlier: first }),
  };
}
