import type { History, HistoryEntry } from '@/history/history';
import type { Database, EntryRecord, OrdleDatabase } from './database';
import type { IDBPTransaction } from 'idb';

type Writing = IDBPTransaction<OrdleDatabase, ('entries' | 'sessions' | 'summaries')[], 'readwrite'>;

/** Actions of a session that are read into memory when it is opened; those before them when they are looked at. */
export const ENTRIES_IN_MEMORY = 2000;

/**
 * What is known to be stored of a session's actions: those from `first` on, in the order in which they were done, as
 * of a write.
 */
interface Known {
  changedAt: number;
  first: number;
  line: readonly HistoryEntry[];
}

const known = new WeakMap<Database, Map<string, Known>>();

function knownIn(database: Database): Map<string, Known> {
  const map = known.get(database) ?? new Map<string, Known>();
  known.set(database, map);
  return map;
}

/** The actions of a history that are in memory, first to last; what is undone follows what is done. */
const lineOf = ({ done, undone }: History): HistoryEntry[] => [...done, ...undone.toReversed()];

/**
 * Writes what is new of a history: mostly one action, whatever the length. `storedAt` is when the session was last
 * stored by anybody (null: never); where that is not what this page wrote or read itself, everything in memory is
 * written.
 */
export function putEntries(
  transaction: Writing,
  database: Database,
  session: string,
  history: History,
  storedAt: number | null,
  changedAt: number,
): () => void {
  const store = transaction.objectStore('entries');
  const first = history.earlier ?? 0;
  const line = lineOf(history);
  const before = knownIn(database).get(session);
  const isKnown = before !== undefined && before.changedAt === storedAt;
  let same = 0;
  if (isKnown) {
    const shift = first - before.first;
    const end = before.line.length - shift;
    while (same < line.length && same < end && line[same] === before.line[same + shift]) same++;
  }
  for (let at = same; at < line.length; at++) void store.put({ session, at: first + at, entry: line[at] });
  if (!isKnown || before.first + before.line.length > first + line.length)
    void store.delete(IDBKeyRange.bound([session, first + line.length], [session, Infinity]));
  return () => void knownIn(database).set(session, { changedAt, first, line });
}

/** Notes what was read, so that the next write adds to it. */
export function noteEntries(database: Database, session: string, history: History, changedAt: number): void {
  knownIn(database).set(session, { changedAt, first: history.earlier ?? 0, line: lineOf(history) });
}

export const entriesOf = (session: string, from = 0, to = Infinity): IDBKeyRange =>
  IDBKeyRange.bound([session, from], [session, to], false, to !== Infinity);

/** A history as a list of records. */
export function recordsOf(session: string, history: History): EntryRecord[] {
  return lineOf(history).map((entry, at) => ({ session, at: (history.earlier ?? 0) + at, entry }));
}

/** Copies the first actions of a session to another. */
export async function copyEntries(
  database: Database,
  from: string,
  to: string,
  count: number,
): Promise<void> {
  const transaction = database.transaction('entries', 'readwrite');
  for (const { at, entry } of await transaction.store.getAll(entriesOf(from, 0, count)))
    void transaction.store.put({ session: to, at, entry });
  await transaction.done;
}
