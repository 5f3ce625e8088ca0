import { OrdleError, restoreTake, type StoredTake, type Take } from '@ordle/core';
import { openDatabase } from './database';

/** Takes no session refers to are dropped once they are this old; younger ones may belong to an import under way in another tab. */
const KEEP_UNUSED_MS = 24 * 60 * 60 * 1000;

/** Stores takes in one transaction: all of them or none. Takes already there are left as they are. */
export async function storeTakes(takes: readonly Take[]): Promise<void> {
  const database = await openDatabase();
  const transaction = database.transaction('takes', 'readwrite');
  const storedAt = Date.now();
  await Promise.all([
    ...takes.map((take) => transaction.store.put({ key: take.key, take: storedPart(take), storedAt })),
    transaction.done,
  ]);
}

/** Only what cannot be computed again. */
function storedPart({ key, name, division, tempos, meters, events, endTick }: Take): StoredTake {
  return { key, name, division, tempos, meters, events, endTick };
}

/** Reads a take. Throws OrdleError `take-missing` when the browser no longer has it. */
export async function loadTake(key: string): Promise<Take> {
  const record = await (await openDatabase()).get('takes', key);
  if (!record) {
    throw new OrdleError(
      'take-missing',
      'A performance this session is made from is no longer in this browser. Import its file again.',
    );
  }
  return restoreTake(record.take);
}

/** Drops takes that no session and no history needs. Returns how many went. */
export async function dropUnusedTakes(now = Date.now()): Promise<number> {
  const database = await openDatabase();
  const transaction = database.transaction(['takes', 'sessions', 'histories'], 'readwrite');
  const sessions = await transaction.objectStore('sessions').getAll();
  const histories = await transaction.objectStore('histories').getAll();
  // A take that only an undone or undoable action refers to appears in the patches by its key.
  const inHistories = JSON.stringify(histories);
  const used = new Set(sessions.flatMap(({ document }) => document.takes.map((take) => take.key)));
  const takes = transaction.objectStore('takes');
  let dropped = 0;
  for (let cursor = await takes.openCursor(); cursor; cursor = await cursor.continue()) {
    const { key, storedAt } = cursor.value;
    if (used.has(key) || inHistories.includes(key) || now - storedAt < KEEP_UNUSED_MS) continue;
    await cursor.delete();
    dropped++;
  }
  await transaction.done;
  return dropped;
}
