import type { CleanedMusic, Cleaning } from '@ordle/core';
import { deleteDB, openDB, type DBSchema, type IDBPDatabase } from 'idb';
import { storageError } from './storageError';

/** One of many files that are cleaned, without its bytes. */
export interface ManyFile {
  index: number;
  /** Where it lay, with the folders it was given in. */
  path: string;
  /** Bytes as it came. */
  size: number;
  state: 'waiting' | 'done' | 'failed';
  /** What came of it; null unless it is done. */
  made: (Omit<CleanedMusic, 'bytes'> & { size: number }) | null;
  /** Why it failed; null unless it has. */
  sentence: string | null;
}

/** What is done to all of them, and what it is called. */
export interface ManyCleaning extends Cleaning {
  /** The name of the recipe; null without one. */
  recipe: string | null;
}

interface ManyDatabase extends DBSchema {
  files: { key: number; value: ManyFile };
  given: { key: number; value: Uint8Array };
  made: { key: number; value: Uint8Array };
  /** The one thing that is done to them, under the key 0. */
  cleaning: { key: number; value: ManyCleaning };
}

/**
 * Files to be cleaned and what came of them lie apart from the sessions, in a database of their own: they are gone when
 * they are put away, and are in no back-up. Written from several threads, each file in one transaction.
 */
const NAME = 'ordle-many';
const VERSION = 1;

let opening: Promise<IDBPDatabase<ManyDatabase>> | null = null;

function open() {
  opening ??= openDB<ManyDatabase>(NAME, VERSION, {
    upgrade(database) {
      database.createObjectStore('files', { keyPath: 'index' });
      for (const name of ['given', 'made', 'cleaning'] as const) database.createObjectStore(name);
    },
    blocking(_current, _blocked, event) {
      (event.target as IDBDatabase).close();
      opening = null;
    },
    terminated: () => void (opening = null),
  }).catch((error: unknown) => {
    opening = null;
    throw storageError(error);
  });
  return opening;
}

/** Does something in storage; what keeps it from being done is told as `storage-full` or `storage-failed`. */
async function inStorage<T>(act: (database: IDBPDatabase<ManyDatabase>) => Promise<T>): Promise<T> {
  const database = await open();
  return act(database).catch((error: unknown) => {
    throw storageError(error);
  });
}

/** Keeps some files, all or none. */
export const keepFiles = (files: readonly { record: ManyFile; bytes: Uint8Array }[]): Promise<void> =>
  inStorage(async (database) => {
    const transaction = database.transaction(['files', 'given'], 'readwrite');
    await Promise.all([
      ...files.flatMap(({ record, bytes }) => [
        transaction.objectStore('files').put(record),
        transaction.objectStore('given').put(bytes, record.index),
      ]),
      transaction.done,
    ]);
  });

/** Keeps what came of one file. */
export const keepResult = (record: ManyFile, bytes: Uint8Array | null): Promise<void> =>
  inStorage(async (database) => {
    const transaction = database.transaction(['files', 'made'], 'readwrite');
    await Promise.all([
      transaction.objectStore('files').put(record),
      bytes
        ? transaction.objectStore('made').put(bytes, record.index)
        : transaction.objectStore('made').delete(record.index),
      transaction.done,
    ]);
  });

/** All files in the order they came, and what is done to them; null where nothing was begun. */
export const readMany = (): Promise<{ files: ManyFile[]; cleaning: ManyCleaning | null }> =>
  inStorage(async (database) => ({
    files: await database.getAll('files'),
    cleaning: (await database.get('cleaning', 0)) ?? null,
  }));

export const readFile = (index: number): Promise<ManyFile | undefined> =>
  inStorage((database) => database.get('files', index));

/** The bytes of a file as it came, or as it was made. */
export const readBytes = (which: 'given' | 'made', index: number): Promise<Uint8Array | undefined> =>
  inStorage((database) => database.get(which, index));

/** Says what is done to all files from now on; what another cleaning made of them goes. */
export const beginCleaning = (cleaning: ManyCleaning): Promise<void> =>
  inStorage(async (database) => {
    const transaction = database.transaction(['files', 'made', 'cleaning'], 'readwrite');
    const files = transaction.objectStore('files');
    const before = await transaction.objectStore('cleaning').get(0);
    const isOther = JSON.stringify(before) !== JSON.stringify(cleaning);
    await transaction.objectStore('cleaning').put(cleaning, 0);
    if (isOther) await transaction.objectStore('made').clear();
    for (let cursor = await files.openCursor(); cursor; cursor = await cursor.continue()) {
      const { state } = cursor.value;
      // What failed is tried again.
      if (state === 'failed' || (isOther && state === 'done'))
        await cursor.update({ ...cursor.value, state: 'waiting', made: null, sentence: null });
    }
    await transaction.done;
  });

/** Puts everything away. */
export async function forgetMany(): Promise<void> {
  (await opening)?.close();
  opening = null;
  await deleteDB(NAME);
}
