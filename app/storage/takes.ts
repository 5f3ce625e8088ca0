import {
  OrdleError,
  keepsItsKey,
  keysIn,
  restoreTake,
  type Session,
  type StoredTake,
  type Take,
} from '@ordle/core';
import type { Database } from './database';
import { openDatabase } from './database';

/**
 * Takes nothing refers to are dropped once they are this old; younger ones may belong to an import under way in
 * another tab.
 */
const KEEP_UNUSED_MS = 24 * 60 * 60 * 1000;

/** Stores takes in one transaction: all of them or none. */
export async function storeTakes(takes: readonly StoredTake[]): Promise<void> {
  await putTakes(await openDatabase(), takes);
}

async function putTakes(database: Database, takes: readonly StoredTake[]) {
  const transaction = database.transaction('takes', 'readwrite');
  const storedAt = Date.now();
  await Promise.all([
    ...takes.map((take) => transaction.store.put({ key: take.key, take, storedAt })),
    transaction.done,
  ]);
}

/** Takes the browser would not store, so that they live in this page alone until it does. */
const remembered = new Map<string, StoredTake>();

export function rememberTakes(takes: readonly StoredTake[]): void {
  for (const take of takes) remembered.set(take.key, take);
}

export const rememberedTakes = (): StoredTake[] => [...remembered.values()];

/** Stores those takes of a session that could not be stored before. A session is only saved once its takes are. */
export async function storeRemembered(database: Database, { takes }: Session): Promise<void> {
  const missing = takes.order.flatMap((key) => remembered.get(key) ?? []);
  if (missing.length === 0) return;
  await putTakes(database, missing);
  for (const { key } of missing) remembered.delete(key);
}

/**
 * Reads a take. Throws OrdleError `take-missing` when the browser no longer has it, `take-damaged` when what it has
 * is not what was stored.
 */
export async function loadTake(key: string): Promise<Take> {
  const kept = remembered.get(key);
  if (kept) return restoreTake(kept);
  const record = await (await openDatabase()).get('takes', key);
  if (!record) {
    throw new OrdleError(
      'take-missing',
      'A performance this session is made from is no longer in this browser. Import its file again.',
    );
  }
  if (record.take?.key !== key || !keepsItsKey(record.take)) {
    throw new OrdleError(
      'take-damaged',
      'A performance this session is made from was damaged in this browser’s storage. Import its file again; the rest of the session is untouched.',
    );
  }
  return restoreTake(record.take);
}

/**
 * Drops takes, and tables of hand edits, that nothing stored mentions: no session, no history (an undone action may
 * bring a take back), no deleted session that can still be brought back. The caller sees to it that nothing is open.
 * Returns how many takes went.
 */
export async function dropUnusedTakes(database: Database, now: number): Promise<number> {
  const transaction = database.transaction(
    ['takes', 'tables', 'sessions', 'entries', 'deleted'],
    'readwrite',
  );
  const used = new Set<string>();
  for (const name of ['sessions', 'entries', 'deleted'] as const) {
    const store = transaction.objectStore(name);
    for (let cursor = await store.openCursor(); cursor; cursor = await cursor.continue())
      for (const key of keysIn(cursor.value)) used.add(key);
  }
  let dropped = 0;
  for (const name of ['takes', 'tables'] as const) {
    const store = transaction.objectStore(name);
    for (let cursor = await store.openCursor(); cursor; cursor = await cursor.continue()) {
      const { key, storedAt } = cursor.value;
      if (used.has(key) || now - storedAt < KEEP_UNUSED_MS) continue;
      await cursor.delete();
      if (name === 'takes') dropped++;
    }
  }
  await transaction.done;
  return dropped;
}
