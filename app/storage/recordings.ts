import { openDatabase, type PlayedRecord, type RecordingRecord } from './database';

const LAST = Number.MAX_SAFE_INTEGER;
const blocksOf = (id: string) => IDBKeyRange.bound([id, 0], [id, LAST]);

/** Appends a stretch of a recording under way. Rejects where the browser will not store it. */
export async function appendRecording(record: RecordingRecord): Promise<void> {
  await (await openDatabase()).put('recordings', record);
}

/** What is stored of recordings into a session, in the order in which it was played. */
export async function recordingsOf(session: string): Promise<RecordingRecord[]> {
  const all = await (await openDatabase()).getAll('recordings');
  return all.filter((record) => record.session === session);
}

export async function dropRecording(id: string): Promise<void> {
  await (await openDatabase()).delete('recordings', blocksOf(id));
}

/** Appends a stretch of what was played on an input, and lets its stretches before one go. */
export async function appendPlayed(record: PlayedRecord, first: number): Promise<void> {
  const database = await openDatabase();
  await database.put('played', record);
  if (first > 0)
    await database.delete('played', IDBKeyRange.bound([record.input, 0], [record.input, first], false, true));
}

/** Everything that was played lately, of all inputs. */
export async function playedLately(): Promise<PlayedRecord[]> {
  return (await openDatabase()).getAll('played');
}
