import 'fake-indexeddb/auto';
import { readFileSync } from 'node:fs';
import path from 'node:path';
import {
  createEvaluator,
  exportSession,
  listOf,
  sessionSchema,
  timelineOf,
  writeMidi,
  type Session,
  type Take,
} from '@ordle/core';
import { openDB } from 'idb';
import { change, jump, undo } from '@/history/history';
import { createStorage } from './createStorage';
import { DATABASE_NAME, openDatabase } from './database';
import { createLocks } from './locks';
import { loadTake } from './takes';
import { closeDatabase } from './testing/storage';

/**
 * Databases as earlier versions stored them, made with those versions' own code, with what was heard then. 1: hand
 * edits, steps made permanent, a history of 287 and 2 actions. 2: takes put together by bars, one of them twice,
 * drawn notes with and without ids, notes humanized before and after making permanent, a file brought in; heard at
 * eight points of its history. 3: two steps and an edit that was undone, with its export.
 */
function stored(version: number) {
  const unpack = (value: unknown): unknown => {
    if (Array.isArray(value)) return value.map(unpack);
    if (typeof value !== 'object' || value === null) return value;
    if ('$' in value && 'v' in value) {
      const list = value.v as number[];
      if (value.$ === 'Float64Array') return Float64Array.from(list);
      return value.$ === 'Uint32Array' ? Uint32Array.from(list) : Uint8Array.from(list);
    }
    return Object.fromEntries(Object.entries(value).map(([key, each]) => [key, unpack(each)]));
  };
  const file = path.join(__dirname, `fixtures/database-${version}.json`);
  return unpack(JSON.parse(readFileSync(file, 'utf8'))) as Record<string, Record<string, unknown>[]>;
}

const KEYS = {
  sessions: 'id',
  histories: 'id',
  summaries: 'id',
  entries: ['session', 'at'],
  takes: 'key',
  views: 'id',
  marks: 'key',
  deleted: 'id',
};

/** Lays a database of some version into the browser, and opens it with today's code. */
async function openedFrom(version: number, stores: Record<string, Record<string, unknown>[]>) {
  await closeDatabase();
  await new Promise((resolve) => (indexedDB.deleteDatabase(DATABASE_NAME).onsuccess = resolve));
  const old = await openDB(DATABASE_NAME, version, {
    upgrade(database) {
      for (const [name, keyPath] of Object.entries(KEYS))
        if (name in stores) database.createObjectStore(name, { keyPath });
    },
  });
  for (const [name, records] of Object.entries(stores))
    for (const record of records) await old.put(name, record);
  old.close();
  return createStorage({ locks: createLocks(undefined), onSaving: () => undefined });
}

/** What every part sounds like, cleaned: notes, and events of channels. */
async function heardIn(document: Session) {
  const takes = new Map<string, Take>();
  for (const key of document.takes.order) takes.set(key, await loadTake(key));
  const evaluator = createEvaluator((key) => takes.get(key) as Take);
  return listOf(document.parts).map((part) => {
    const { notes, events } = evaluator.evaluate(part, document, timelineOf(document)).stages[
      part.steps.order.length
    ];
    const columns = [notes.start, notes.end, notes.pitch, notes.velocity, notes.channel];
    const rows = (list: ArrayLike<number>[], length: number) =>
      Array.from({ length }, (_, row) => list.map((column) => column[row]));
    return {
      part: part.id,
      notes: rows(columns, notes.length),
      events: rows([events.tick, events.status, events.data1, events.data2], events.length),
    };
  });
}

describe('a database of the first version', () => {
  it('opens with everything it had, and sounds the same', async () => {
    const { cleaned, ...stores } = stored(1);
    const storage = await openedFrom(1, stores);
    expect((await openDatabase()).version).toBeGreaterThan(1);
    const [summary] = await storage.list();
    expect(summary).toMatchObject({ name: 'Quay in the morning', parts: 2, broken: null });
    const { document, history } = await storage.load(summary.id);
    expect(sessionSchema.parse(document)).toEqual(document);
    expect([history.done.length, history.undone.length]).toEqual([287, 2]);
    // The same to the letter, but for the version each was made under.
    const before = stores.histories[0].history as { done: object[]; undone: object[] };
    const then = (list: object[]) => list.map((entry) => ({ ...entry, version: 1 }));
    expect([history.done, history.undone]).toEqual([then(before.done), then(before.undone)]);
    expect(history.former).toEqual({ 1: stores.sessions[0].document });
    const heard = await heardIn(document);
    expect(heard.map(({ part, notes }) => ({ part, notes }))).toEqual(cleaned);
    // Every point of the history can be reached.
    const first = jump({ document, history }, 0);
    expect(listOf(first.document.parts).every(({ steps }) => steps.order.length === 0)).toBe(true);
    expect(jump(first, 287).document).toEqual(document);
  });
});

describe('a database of the second version', () => {
  const setUp = async () => {
    const { heard, ...stores } = stored(2);
    const storage = await openedFrom(2, stores);
    const [{ id }] = await storage.list();
    return { storage, id, heard, work: await storage.load(id) };
  };

  it('opens with everything it had, and sounds the same at every point of its history', async () => {
    const { heard, work } = await setUp();
    expect([work.history.done.length, work.history.undone.length]).toEqual([251, 2]);
    expect(heard).toHaveLength(8);
    for (const { count, heard: then } of heard)
      expect([count, await heardIn(jump(work, count as number).document)]).toEqual([count, then]);
  });

  it('goes on from there: what is done now is undone now, and then what was done then', async () => {
    const { storage, id, work } = await setUp();
    const louder = change(work, 'Solo', (draft) => void (listOf(draft.parts)[0].soloed = true));
    const moved = change(jump(louder, 100), 'Rename', (draft) => void (draft.name = 'Elsewhere'));
    expect([moved.history.done.length, moved.history.undone.length]).toEqual([101, 0]);
    // Undone across the boundary and done again, it is the same.
    expect(jump(jump(louder, 7), 252).document).toEqual(louder.document);
    expect(undo(undo(louder)).document.parts).toEqual(jump(work, 250).document.parts);
    // Stored, and read again: the way back is still there.
    storage.saver.track(work, work.changedAt);
    storage.saver.offer(louder);
    storage.saver.flush();
    await storage.saver.settled(id);
    const again = await storage.load(id);
    expect([again.document, again.history]).toEqual([louder.document, louder.history]);
    expect(jump(again, 3).document).toEqual(jump(work, 3).document);
    // A name given on the shelf is nothing that is undone.
    await storage.rename(id, 'Pontoon');
    const named = await storage.load(id);
    expect(jump(named, 3).document.name).toBe('Pontoon');
  });

  it('gives no number of a piece or a drawn note back, however far is undone', async () => {
    const { work } = await setUp();
    const { nextPiece, nextNoteId } = work.document;
    expect(jump(work, 0).document).toMatchObject({ nextPiece, nextNoteId });
  });
});

describe('a database of the third version', () => {
  it('opens with its history, and exports the same bytes', async () => {
    const { exported, ...stores } = stored(3);
    const storage = await openedFrom(3, stores);
    const database = await openDatabase();
    expect([...database.objectStoreNames]).toEqual(expect.arrayContaining(['recordings', 'played']));
    const [{ id }] = await storage.list();
    const work = await storage.load(id);
    expect([work.history.done.length, work.history.undone.length]).toEqual([2, 1]);
    const { document } = work;
    const takes = new Map<string, Take>();
    for (const key of document.takes.order) takes.set(key, await loadTake(key));
    const takeOf = (key: string) => takes.get(key) as Take;
    const options = { format: 1 as const, version: 'cleaned' as const, parts: document.parts.order };
    const file = exportSession(document, options, createEvaluator(takeOf), takeOf);
    expect(Array.from(writeMidi(file))).toEqual(Array.from(exported[0].bytes as Uint8Array));
  });
});
