import { OrdleError, SESSION_VERSION, readDocument, settled, versionOf, withTodaysNames } from '@ordle/core';
import {
  emptyHistory,
  historySchema,
  storedHistory,
  type History,
  type HistoryEntry,
  type Work,
} from '@/state/history';
import type { Database } from './database';
import { storageError } from './storageError';
import { storeRemembered } from './takes';

/**
 * Writes a session and its history in one transaction, after any take of it that could not be stored before. Gives when. `base` is when it was
 * last known to be stored (null: never). Throws OrdleError `session-deleted` when it was deleted meanwhile, else what the browser throws.
 */
export async function writeSession(
  database: Database,
  { document, history }: Work,
  base: number | null,
  changedAt: number,
): Promise<number> {
  await storeRemembered(database, document);
  const transaction = database.transaction(['sessions', 'histories'], 'readwrite');
  // Told below; without this it would also count as an error nobody met.
  transaction.done.catch(() => undefined);
  const sessions = transaction.objectStore('sessions');
  try {
    if (base !== null && (await sessions.getKey(document.id)) === undefined) {
      throw new OrdleError(
        'session-deleted',
        'This session was deleted in another tab, so it could not be saved. Keep it as a copy if you still need it.',
      );
    }
    await Promise.all([
      sessions.put({ id: document.id, document, changedAt }),
      transaction.objectStore('histories').put({ id: document.id, history: storedHistory(history) }),
      transaction.done,
    ]);
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
 * Reads a session and its history in one transaction, checked against their schemas. Throws OrdleError `no-session`, or `session-newer` or
 * `session-unreadable` naming the place, and then leaves what is stored alone. A history that cannot be read is set aside; the document does
 * not depend on it.
 */
export async function readSession(database: Database, id: string): Promise<StoredSession> {
  const transaction = database.transaction(['sessions', 'histories']);
  const [record, kept] = await Promise.all([
    transaction.objectStore('sessions').get(id),
    transaction.objectStore('histories').get(id),
  ]).catch((error: unknown) => {
    throw storageError(error);
  });
  if (!record) {
    throw new OrdleError(
      'no-session',
      'There is no such session in this browser. It may have been deleted, or belong to another browser.',
    );
  }
  return {
    document: settled(readDocument(record.document)),
    history: readHistory(kept?.history, record.document),
    changedAt: typeof record.changedAt === 'number' ? record.changedAt : 0,
  };
}

/** A stored history; where it was stored with a document of an older version, that document is kept, to undo by. */
function readHistory(stored: unknown, document: unknown): History {
  const version = versionOf(document) ?? SESSION_VERSION;
  const parsed = historySchema.safeParse(version === 1 ? withTodaysNames(stored) : stored);
  if (!parsed.success) return emptyHistory();
  if (version === SESSION_VERSION) return parsed.data;
  const then = (entry: HistoryEntry): HistoryEntry => ({ ...entry, version: entry.version ?? version });
  const { done, undone, former } = parsed.data;
  return {
    done: done.map(then),
    undone: undone.map(then),
    former: { ...former, [version]: version === 1 ? withTodaysNames(document) : document },
  };
}
