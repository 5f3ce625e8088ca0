import type { EditTable, OrdleError, Session, StoredTake } from '@ordle/core';
import { openDB, type DBSchema, type IDBPDatabase, type IDBPTransaction, type StoreNames } from 'idb';
import type { History, HistoryEntry } from '@/history/history';
import { summaryOf, summaryRecordOf } from './summary';
import { openingError } from './storageError';

/** A session as it lies in the browser: the document, and how many of its actions are done. */
export interface SessionRecord {
  id: string;
  document: Session;
  /** What the document may hold beyond its version: a program that knows less takes it for newer, not for damaged. */
  minor?: number;
  changedAt: number;
  done?: number;
  /** Documents of older versions, for undoing what was done under them. */
  former?: History['former'];
}

/** What the shelf shows of a session without opening it. */
export interface SummaryRecord {
  id: string;
  name: string;
  parts: number;
  notes: number;
  changedAt: number;
}

/**
 * One action of a session's history, by its place in the order in which they were done; what is undone follows what
 * is done.
 */
export interface EntryRecord {
  session: string;
  at: number;
  entry: HistoryEntry;
}

/** A history as a whole, as versions before 3 stored them, and as a deleted session keeps its own. */
export interface HistoryRecord {
  id: string;
  history: History;
}

/** A take by its content key. `storedAt` tells takes that are just being imported from those nobody needs any more. */
export interface TakeRecord {
  key: string;
  take: StoredTake;
  storedAt: number;
}

/** Hand edits of many notes by their content key. */
export interface TableRecord {
  key: string;
  table: EditTable;
  storedAt: number;
}

/** A deleted session, kept whole for as long as it can be brought back. */
export interface DeletedRecord {
  id: string;
  session: SessionRecord;
  history: HistoryRecord | null;
  deletedAt: number;
}

/** A stretch of a recording under way, as it is appended while somebody plays; see `app/recording/brokenOff.ts`. */
export interface RecordingRecord {
  id: string;
  block: number;
  session: string;
  content: unknown;
}

/** A stretch of what was just played, whether recorded or not; see `app/recording/memory.ts`. */
export interface PlayedRecord {
  input: string;
  block: number;
  content: unknown;
}

/** Where a person left a session: active part and current stop, view, loop. Losing it loses no work. */
export interface ViewRecord {
  id: string;
  view: unknown;
}

export interface OrdleDatabase extends DBSchema {
  sessions: { key: string; value: SessionRecord };
  summaries: { key: string; value: SummaryRecord };
  entries: { key: [string, number]; value: EntryRecord };
  takes: { key: string; value: TakeRecord };
  tables: { key: string; value: TableRecord };
  views: { key: string; value: ViewRecord };
  marks: { key: string; value: { key: string; value: unknown } };
  deleted: { key: string; value: DeletedRecord };
  recordings: { key: [string, number]; value: RecordingRecord };
  played: { key: [string, number]; value: PlayedRecord };
}

export type Database = IDBPDatabase<OrdleDatabase>;

export const DATABASE_NAME = 'ordle';
/** Version of the stores; each number up adds its own migration below. */
const VERSION = 4;

let opening: Promise<Database> | null = null;
let fault: OrdleError | null = null;
const onFault = new Set<() => void>();
const beforeAside = new Set<() => Promise<unknown>>();

/** Opens the database once. Rejects with an OrdleError where the browser refuses storage; a later call tries again. */
export function openDatabase(): Promise<Database> {
  opening ??= open().then(
    (database) => {
      setFault(null);
      return database;
    },
    (error: unknown) => {
      opening = null;
      const met = openingError(error);
      setFault(met);
      throw met;
    },
  );
  return opening;
}

/** The next call opens the database anew. */
export function forgetDatabase(): void {
  opening = null;
}

/** Why the database could not be opened the last time it was asked for; null when it could. */
export function openingFault(): OrdleError | null {
  return fault;
}

function setFault(next: OrdleError | null) {
  if (next?.code === fault?.code) return;
  fault = next;
  onFault.forEach((listener) => listener());
}

/** Calls back whenever `openingFault` is another. Returns the way to stop. */
export function onOpeningFault(listener: () => void): () => void {
  onFault.add(listener);
  return () => void onFault.delete(listener);
}

/** Has something done, and waited for, before this page steps aside for a newer one. Returns the way to stop. */
export function beforeSteppingAside(act: () => Promise<unknown>): () => void {
  beforeAside.add(act);
  return () => void beforeAside.delete(act);
}

/**
 * A newer Ordle in another tab waits to upgrade what is stored: what is unsaved here is stored first, then this page
 * lets go. Whether the newer one has come is then asked, so that it is known before the next change is made.
 */
async function stepAside(database: IDBDatabase, isUpgrade: boolean) {
  if (isUpgrade) await Promise.allSettled([...beforeAside].map((act) => act()));
  opening = null;
  database.close();
  if (isUpgrade) await openDatabase().catch(() => undefined);
}

/** Async, so that a browser that throws at once is met the same way as one that refuses later. */
async function open(): Promise<Database> {
  return openDB<OrdleDatabase>(DATABASE_NAME, VERSION, {
    async upgrade(database, oldVersion, _newVersion, transaction) {
      if (oldVersion < 1) {
        database.createObjectStore('sessions', { keyPath: 'id' });
        database.createObjectStore('takes', { keyPath: 'key' });
        database.createObjectStore('views', { keyPath: 'id' });
        database.createObjectStore('marks', { keyPath: 'key' });
      }
      if (oldVersion < 2) database.createObjectStore('deleted', { keyPath: 'id' });
      if (oldVersion < 3) {
        database.createObjectStore('summaries', { keyPath: 'id' });
        database.createObjectStore('tables', { keyPath: 'key' });
        database.createObjectStore('entries', { keyPath: ['session', 'at'] });
        if (oldVersion >= 1) await spreadHistories(database, transaction);
      }
      if (oldVersion < 4) {
        database.createObjectStore('recordings', { keyPath: ['id', 'block'] });
        database.createObjectStore('played', { keyPath: ['input', 'block'] });
      }
    },
    blocking(_current, blocked, event) {
      void stepAside(event.target as IDBDatabase, blocked !== null);
    },
    terminated() {
      opening = null;
    },
  });
}

type Upgrade = IDBPTransaction<OrdleDatabase, StoreNames<OrdleDatabase>[], 'versionchange'>;

/**
 * Version 3: every action of a history becomes a record of its own, and every session gets a summary. What cannot be
 * read stays as it is.
 */
async function spreadHistories(database: Database, transaction: Upgrade): Promise<void> {
  const former = (transaction as unknown as IDBPTransaction<unknown, string[], 'versionchange'>).objectStore(
    'histories',
  );
  const [sessions, entries, summaries] = [
    transaction.objectStore('sessions'),
    transaction.objectStore('entries'),
    transaction.objectStore('summaries'),
  ];
  for (let cursor = await sessions.openCursor(); cursor; cursor = await cursor.continue()) {
    const record = cursor.value;
    const kept = (await former.get(record.id)) as Partial<HistoryRecord> | undefined;
    const done = Array.isArray(kept?.history?.done) ? kept.history.done : [];
    const undone = Array.isArray(kept?.history?.undone) ? kept.history.undone : [];
    const line = [...done, ...undone.toReversed()];
    for (let at = 0; at < line.length; at++) await entries.put({ session: record.id, at, entry: line[at] });
    await cursor.update({ ...record, done: done.length });
    if (summaryOf(record).broken === null) await summaries.put(summaryRecordOf(record));
  }
  (database as unknown as IDBPDatabase).deleteObjectStore('histories');
}
