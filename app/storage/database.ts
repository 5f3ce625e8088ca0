import type { Session, StoredTake } from '@ordle/core';
import { openDB, type DBSchema, type IDBPDatabase } from 'idb';
import type { History } from '@/state/history';

/** A session as it lies in the browser: the document, and what the shelf shows of it without opening it. */
export interface SessionRecord {
  id: string;
  document: Session;
  changedAt: number;
}

/** A take by its content key. `storedAt` tells takes that are just being imported from those nobody needs any more. */
export interface TakeRecord {
  key: string;
  take: StoredTake;
  storedAt: number;
}

/** Where a person left a session: chosen part and stop, view, loop. Losing it loses no work. */
export interface ViewRecord {
  id: string;
  view: unknown;
}

interface OrdleDatabase extends DBSchema {
  sessions: { key: string; value: SessionRecord };
  histories: { key: string; value: { id: string; history: History } };
  takes: { key: string; value: TakeRecord };
  views: { key: string; value: ViewRecord };
  marks: { key: string; value: { key: string; value: unknown } };
}

export type Database = IDBPDatabase<OrdleDatabase>;

const NAME = 'ordle';
/** Version of the stores; each number up adds its own migration below. */
const VERSION = 1;

let opening: Promise<Database> | null = null;

/** Opens the database once. Rejects where the browser refuses storage; a later call tries again. */
export function openDatabase(): Promise<Database> {
  opening ??= open().catch((error: unknown) => {
    opening = null;
    throw error;
  });
  return opening;
}

/** Async, so that a browser that throws at once is met the same way as one that refuses later. */
async function open(): Promise<Database> {
  return openDB<OrdleDatabase>(NAME, VERSION, {
    upgrade(database, oldVersion) {
      if (oldVersion < 1) {
        database.createObjectStore('sessions', { keyPath: 'id' });
        database.createObjectStore('histories', { keyPath: 'id' });
        database.createObjectStore('takes', { keyPath: 'key' });
        database.createObjectStore('views', { keyPath: 'id' });
        database.createObjectStore('marks', { keyPath: 'key' });
      }
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
