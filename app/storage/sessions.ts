import { OrdleError, SESSION_VERSION, sessionSchema, type Session } from '@ordle/core';
import { emptyHistory, historySchema, type History } from '@/state/history';
import { openDatabase, type Database, type SessionRecord } from './database';

/** What the shelf shows of a session. */
export interface SessionSummary {
  id: string;
  name: string;
  parts: number;
  notes: number;
  changedAt: number;
}

/** Where the browser refuses storage (private windows, full disks) sessions live here, until the tab is closed. */
const memory = new Map<string, { document: Session; history: History; changedAt: number }>();
let refused = false;

/** Whether the browser has refused to store; then work lives only as long as this tab. */
export function storageRefused(): boolean {
  return refused;
}

/** The database, or null where the browser refuses it. */
async function tryDatabase(): Promise<Database | null> {
  const database = await openDatabase().catch(() => null);
  refused = database === null;
  return database;
}

export async function listSessions(): Promise<SessionSummary[]> {
  const records = (await (await tryDatabase())?.getAll('sessions')) ?? [];
  const kept = [...memory.values()].filter(
    ({ document }) => !records.some((record) => record.id === document.id),
  );
  return [...records, ...kept.map((entry) => ({ id: entry.document.id, ...entry }))]
    .map(summaryOf)
    .sort((a, b) => b.changedAt - a.changedAt);
}

function summaryOf({ id, document, changedAt }: SessionRecord): SessionSummary {
  const notes = document.takes.reduce((sum, take) => sum + take.noteCount, 0);
  return { id, name: document.name, parts: document.parts.length, notes, changedAt };
}

/** Writes a session and its history in one transaction; in memory only where storage is refused. Returns when, and whether it was stored. */
export async function saveSession(
  document: Session,
  history: History,
): Promise<{ changedAt: number; stored: boolean }> {
  const changedAt = Date.now();
  const database = await tryDatabase();
  if (!database) {
    memory.set(document.id, { document, history, changedAt });
    announce();
    return { changedAt, stored: false };
  }
  const transaction = database.transaction(['sessions', 'histories'], 'readwrite');
  await Promise.all([
    transaction.objectStore('sessions').put({ id: document.id, document, changedAt }),
    transaction.objectStore('histories').put({ id: document.id, history }),
    transaction.done,
  ]);
  announce();
  return { changedAt, stored: true };
}

/**
 * Reads a session, checked against its schema. Throws OrdleError `no-session`, or `session-unreadable` naming the place, and then
 * leaves what is stored alone. A history that cannot be read is set aside; the document does not depend on it.
 */
export async function loadSession(
  id: string,
): Promise<{ document: Session; history: History; changedAt: number }> {
  const database = await tryDatabase();
  const record = await database?.get('sessions', id);
  if (!record) {
    const kept = memory.get(id);
    if (kept) return kept;
    throw new OrdleError(
      'no-session',
      'There is no such session in this browser. It may have been deleted, or belong to another browser.',
    );
  }
  const version = (record.document as { version?: unknown }).version;
  if (typeof version === 'number' && version > SESSION_VERSION) {
    throw new OrdleError(
      'session-newer',
      'This session was saved by a newer Ordle than this one. Update, then open it again; nothing was changed.',
    );
  }
  const parsed = sessionSchema.safeParse(record.document);
  if (!parsed.success) {
    const issue = parsed.error.issues[0];
    throw new OrdleError(
      'session-unreadable',
      `The stored session cannot be read at ${issue.path.join('.') || 'its start'}: ${issue.message}. It was left as it is.`,
    );
  }
  const kept = historySchema.safeParse((await database?.get('histories', id))?.history);
  return {
    document: parsed.data,
    history: kept.success ? kept.data : emptyHistory(),
    changedAt: record.changedAt,
  };
}

/** Deletes a session and gives back what is needed to bring it back. Its takes stay until nobody needs them. */
export async function deleteSession(id: string): Promise<() => Promise<void>> {
  const database = await tryDatabase();
  const kept = memory.get(id);
  memory.delete(id);
  if (!database) {
    announce();
    return async () => {
      if (kept) memory.set(id, kept);
      announce();
    };
  }
  const transaction = database.transaction(['sessions', 'histories'], 'readwrite');
  const [record, history] = await Promise.all([
    transaction.objectStore('sessions').get(id),
    transaction.objectStore('histories').get(id),
  ]);
  await Promise.all([
    transaction.objectStore('sessions').delete(id),
    transaction.objectStore('histories').delete(id),
    transaction.done,
  ]);
  announce();
  return async () => {
    if (!record) return;
    const back = (await openDatabase()).transaction(['sessions', 'histories'], 'readwrite');
    await Promise.all([
      back.objectStore('sessions').put(record),
      history ? back.objectStore('histories').put(history) : Promise.resolve(),
      back.done,
    ]);
    announce();
  };
}

export async function renameSession(id: string, name: string): Promise<void> {
  const { document, history } = await loadSession(id);
  await saveSession({ ...document, name }, history);
}

/** A copy under a new id and name; takes are shared, the history starts anew. */
export async function duplicateSession(id: string, newId: string): Promise<void> {
  const { document } = await loadSession(id);
  await saveSession(
    { ...document, id: newId, name: `${document.name}, copy`.slice(0, 200), createdAt: Date.now() },
    emptyHistory(),
  );
}

const channel = typeof BroadcastChannel === 'undefined' ? null : new BroadcastChannel('ordle-sessions');
// In Node (the tests) an open channel would keep the process alive.
(channel as unknown as { unref?: () => void } | null)?.unref?.();
const listeners = new Set<() => void>();
channel?.addEventListener('message', () => listeners.forEach((listener) => listener()));

function announce() {
  channel?.postMessage('changed');
  listeners.forEach((listener) => listener());
}

/** Calls back whenever the stored sessions change, in this tab or another. Returns the way to stop. */
export function onSessionsChanged(listener: () => void): () => void {
  listeners.add(listener);
  return () => listeners.delete(listener);
}

/** Bytes in use and at hand, where the browser tells. */
export async function storageUse(): Promise<{ used: number; quota: number } | null> {
  const estimate = await navigator.storage?.estimate?.().catch(() => null);
  return estimate ? { used: estimate.usage ?? 0, quota: estimate.quota ?? 0 } : null;
}
