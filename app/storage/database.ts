import type { OrdleError, Session, StoredTake } from '@ordle/core';
import { openDB, type DBSchema, type IDBPDatabase } from 'idb';
import type { History } from '@/state/history';
import { openingError } from './storageError';

/** A session as it lies in the browser: the document, and what the shelf shows of it without opening it. */
export interface SessionRecord {
  id: string;
  document: Session;
  changedAt: number;
}

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

/** A deleted session, kept whole for as long as it can be brought back. */
export interface DeletedRecord {
  id: string;
  session: SessionRecord;
  history: HistoryRecord | null;
  deletedAt: number;
}

/** Where a person left a session: chosen part and stop, view, loop. Losing it loses no work. */
export interface ViewRecord {
  id: string;
  view: unknown;
}

interface OrdleDatabase extends DBSchema {
  sessions: { key: string; value: SessionRecord };
  histories: { key: string; value: HistoryRecord };
  takes: { key: string; value: TakeRecord };
  views: { key: string; value: ViewRecord };
  marks: { key: string; value: { key: string; value: unknown } };
  deleted: { key: string; value: DeletedRecord };
}

export type Database = IDBPDatabase<OrdleDatabase>;

export const DATABASE_NAME = 'ordle';
/** Version of the stores; each number up adds its own migration below. */
const VERSION = 2;

let opening: Promise<Database> | null = null;
let fault: OrdleError | null = null;

/** Opens the database once. Rejects with an OrdleError where the browser refuses storage; a later call tries again. */
export function openDatabase(): Promise<Database> {
  opening ??= open().then(
    (database) => {
      fault = null;
      return database;
    },
    (error: unknown) => {
      opening = null;
      fault = openingError(error);
      throw fault;
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

/** Async, so that a browser that throws at once is met the same way as one that refuses later. */
async function open(): Promise<Database> {
  return openDB<OrdleDatabase>(DATABASE_NAME, VERSION, {
    upgrade(database, oldVersion) {
      if (oldVersion < 1) {
        database.createObjectStore('sessions', { keyPath: 'id' });
        database.createObjectStore('histories', { keyPath: 'id' });
        database.createObjectStore('takes', { keyPath: 'key' });
        database.createObjectStore('views', { keyPath: 'id' });
        database.createObjectStore('marks', { keyPath: 'key' });
      }
      if (oldVersion < 2) database.createObjectStore('deleted', { keyPath: 'id' });
    },
    blocking(_current, _blocked, event) {
      // A newer Ordle in another tab waits to upgrade: step aside, the next call opens anew.
      (event.target as IDBDatabase).close();
      opening = null;
    },
    terminated() {
      opening = null;
    },
  });
}
