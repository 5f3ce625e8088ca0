import { OrdleError, SESSION_VERSION, sessionSchema, withTodaysNames, type Session } from '@ordle/core';
import { emptyHistory, historySchema, storedHistory, type Work } from '@/state/history';
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
  const history = historySchema.safeParse(withTodaysNames(kept?.history));
  return {
    document: checkedDocument(withTodaysNames(record.document)),
    history: history.success ? history.data : emptyHistory(),
    changedAt: typeof record.changedAt === 'number' ? record.changedAt : 0,
  };
}

function checkedDocument(document: unknown): Session {
  const version =
    typeof document === 'object' && document !== null && 'version' in document ? document.version : null;
  if (typeof version === 'number' && version > SESSION_VERSION) {
    throw new OrdleError(
      'session-newer',
      'This session was saved by a newer Ordle than this one. Update, then open it again; nothing was changed.',
    );
  }
  const parsed = sessionSchema.safeParse(document);
  if (parsed.success) return parsed.data;
  const issue = parsed.error.issues[0];
  throw new OrdleError(
    'session-unreadable',
    `The stored session cannot be read at ${issue.path.join('.') || 'its start'}: ${issue.message}. It was left as it is.`,
  );
}
