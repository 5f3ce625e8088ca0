import 'fake-indexeddb/auto';
import {
  orderedOf,
  insertItems,
  listOf,
  createStep,
  inspectMidi,
  readMidi,
  type Session,
  type PlacedStep,
} from '@ordle/core';
import { change, emptyHistory } from '@/history/history';
import { createStorage } from './createStorage';
import { openDatabase, type Database } from './database';
import { createLocks } from './locks';
import type { Saving } from './saver';
import { openingError } from './storageError';
import { loadTake, rememberTakes, rememberedTakes, storeTakes } from './takes';
import {
  createClock,
  createLockManagers,
  emptyDatabase,
  fullDisk,
  putTakes,
  sessionOfOneNote,
  whenQuiet,
} from './testing/storage';

const DAY = 24 * 3600 * 1000;

/** One tab over the database, with a clock of its own. */
function createTab(managers = createLockManagers(), options: { open?: () => Promise<Database> } = {}) {
  const clock = createClock(1e12);
  const told: [string, Saving][] = [];
  const tab = managers.tab();
  const storage = createStorage({
    locks: createLocks(tab.manager),
    onSaving: (id, saving) => told.push([id, saving]),
    ...options,
    now: clock.now,
    later: clock.later,
  });
  return { storage, clock, told, tab };
}

beforeEach(async () => void (await emptyDatabase()));

describe('stored sessions', () => {
  it('come back as they were saved, history and all', async () => {
    const { storage } = createTab();
    const { session } = sessionOfOneNote('Quay');
    const work = change({ document: session, history: emptyHistory() }, 'Add quantize', (draft) =>
      insertItems<PlacedStep>(listOf(draft.parts)[0].steps, [{ id: 's', step: createStep('quantize') }]),
    );
    expect(await storage.add(work.document, work.history)).toMatchObject({ state: 'saved' });
    const loaded = await storage.load(session.id);
    expect(loaded.document).toEqual(work.document);
    expect(loaded.history).toEqual(work.history);
  });

  it('are listed newest first, renamed, duplicated with their history, deleted and brought back', async () => {
    const { storage } = createTab();
    const { session } = sessionOfOneNote('Quay');
    const work = change({ document: session, history: emptyHistory() }, 'Rename', (draft) => {
      draft.name = 'Berth';
    });
    await storage.add(work.document, work.history);
    await storage.rename(session.id, 'Pier');
    await storage.duplicate(session.id, 'copy');
    expect((await storage.list()).map(({ name }) => name)).toEqual(['Pier, copy', 'Pier']);
    expect((await storage.load('copy')).history).toEqual(work.history);
    await storage.remove(session.id);
    expect((await storage.list()).map(({ name }) => name)).toEqual(['Pier, copy']);
    expect(await storage.listDeleted()).toMatchObject([{ id: session.id, name: 'Pier' }]);
    await storage.bringBack(session.id);
    const back = await storage.load(session.id);
    expect([back.document.name, back.history]).toEqual(['Pier', work.history]);
    await expect(storage.bringBack(session.id)).rejects.toThrow('no longer there');
  });

  it('that cannot be read are refused with the place, and left as they are', async () => {
    const { storage } = createTab();
    const { session } = sessionOfOneNote('Quay');
    const database = await openDatabase();
    const broken = { ...session, parts: orderedOf([{ ...listOf(session.parts)[0], ink: 99 }]) } as Session;
    await database.put('sessions', { id: session.id, document: broken, changedAt: 1 });
    await expect(storage.load(session.id)).rejects.toThrow(`parts.byId.${session.parts.order[0]}.ink`);
    expect((await database.get('sessions', session.id))?.document).toEqual(broken);
    const newer = { ...session, version: 99 } as unknown as Session;
    await database.put('sessions', { id: session.id, document: newer, changedAt: 1 });
    await expect(storage.load(session.id)).rejects.toThrow('newer Ordle');
    await expect(storage.load('nowhere')).rejects.toThrow('no such session');
  });

  it.each([
    ['no document', undefined],
    ['a document of another kind', 'lost'],
    ['no takes', { name: 'Quay', parts: [] }],
    ['takes that are none', { name: 'Quay', parts: [], takes: [null] }],
  ])('do not take the shelf with them when one is broken (%s), and give their takes', async (_, document) => {
    const { storage } = createTab();
    const [sound, lost] = [sessionOfOneNote('Sound'), sessionOfOneNote('Quay', 61)];
    await storage.add(sound.session);
    await storeTakes(lost.takes);
    const database = await openDatabase();
    const history = change({ document: lost.session, history: emptyHistory() }, 'Add', (draft) => {
      insertItems(draft.takes, [{ ...listOf(lost.session.takes)[0], name: 'again' }]);
    }).history;
    await database.put('entries', { session: 'lost', at: 0, entry: history.done[0] });
    await database.put('sessions', { id: 'lost', document: document as never, changedAt: 5 });
    const list = await storage.list();
    expect(list.map(({ id, broken }) => [id, broken !== null])).toEqual([
      [sound.session.id, false],
      ['lost', true],
    ]);
    const files = await storage.rescue('lost');
    expect(files.map(({ bytes }) => inspectMidi(readMidi(bytes)).notes)).toEqual([1]);
    await storage.remove('lost');
    await storage.bringBack('lost');
    expect(await storage.list()).toHaveLength(2);
  });

  it('open without their history when only that is broken', async () => {
    const { storage } = createTab();
    const { session } = sessionOfOneNote('Quay');
    await storage.add(session);
    const database = await openDatabase();
    await database.put('entries', { session: session.id, at: 0, entry: { label: 5 } as never });
    expect((await storage.load(session.id)).history).toEqual(emptyHistory());
  });
});

describe('what cannot be stored', () => {
  it.each([
    ['a full disk', () => openDatabase().then(fullDisk), 'disk is full'],
    [
      'storage refused',
      () => Promise.reject(openingError(new DOMException('', 'SecurityError'))),
      'refuses storage',
    ],
  ])(
    'stays in reach, is shown as unsaved and is tried again (%s)',
    async (_, broken: () => Promise<Database>, words) => {
      let fails = true;
      const { storage, clock, told } = createTab(createLockManagers(), {
        open: () => (fails ? broken() : openDatabase()),
      });
      const { session } = sessionOfOneNote('Quay');
      const saving = await storage.add(session);
      expect(saving).toMatchObject({ state: 'failed', message: expect.stringContaining(words) });
      expect(await storage.list()).toMatchObject([
        { id: session.id, unsaved: expect.stringContaining(words) },
      ]);
      expect((await storage.load(session.id)).document).toEqual(session);
      await clock.pass(10_000);
      expect(told.some(([, { state }]) => state === 'saved')).toBe(false);
      fails = false;
      await clock.pass(60_000);
      expect(told.at(-1)).toEqual([session.id, { state: 'saved', at: expect.any(Number) }]);
      expect(await storage.list()).toMatchObject([{ id: session.id, unsaved: null }]);
    },
  );

  it('is tried again with growing pauses, however much is changed meanwhile', async () => {
    let tries = 0;
    const { storage, clock } = createTab(createLockManagers(), {
      open: () => {
        tries++;
        return openDatabase().then(fullDisk);
      },
    });
    const { session } = sessionOfOneNote('Quay');
    let work = { document: session, history: emptyHistory() };
    storage.saver.track(work, null);
    storage.saver.flush();
    await whenQuiet();
    const counts: number[] = [];
    for (let second = 0; second < 64; second++) {
      work = change(work, 'Rename', (draft) => void (draft.name = `Quay ${second}`));
      storage.saver.offer(work);
      await clock.pass(1000);
      counts.push(tries);
    }
    // After 1, 3, 7, 15, 31 and 63 seconds.
    expect([counts[0], counts[2], counts[6], counts[14], counts[30], counts[62]]).toEqual([2, 3, 4, 5, 6, 7]);
    expect(tries).toBe(7);
  });

  it('includes takes: a session is not saved before they are', async () => {
    let full = true;
    const { storage, clock } = createTab(createLockManagers(), {
      open: () => openDatabase().then((database) => (full ? fullDisk(database) : database)),
    });
    const { session, takes } = sessionOfOneNote('Quay', 63);
    rememberTakes(takes);
    expect(await storage.add(session)).toMatchObject({ state: 'failed' });
    expect((await loadTake(takes[0].key)).notes.length).toBe(1);
    full = false;
    await clock.pass(5000);
    expect(rememberedTakes()).toEqual([]);
    expect((await (await openDatabase()).get('takes', takes[0].key))?.take.key).toBe(takes[0].key);
  });

  it('keeps the right to write, so that no other tab goes on from the older state', async () => {
    const managers = createLockManagers();
    let full = false;
    const one = createTab(managers, {
      open: () => openDatabase().then((database) => (full ? fullDisk(database) : database)),
    });
    const two = createTab(managers);
    const { session } = sessionOfOneNote('Quay');
    await one.storage.add(session);
    const work = { document: session, history: emptyHistory() };
    one.storage.saver.track(work, 1);
    full = true;
    one.storage.saver.offer(change(work, 'Rename', (draft) => void (draft.name = 'Pier')));
    one.storage.saver.close(session.id);
    await whenQuiet();
    await expect(two.storage.rename(session.id, 'Berth')).rejects.toThrow('open in another tab');
    await expect(two.storage.remove(session.id)).rejects.toThrow('open in another tab');
    full = false;
    await one.clock.pass(5000);
    await two.storage.rename(session.id, 'Berth');
    expect((await two.storage.load(session.id)).document.name).toBe('Berth');
  });

  it('says so when the session was deleted by a tab that knows no locks', async () => {
    const { storage, told } = createTab();
    const { session } = sessionOfOneNote('Quay');
    await storage.add(session);
    const work = { document: session, history: emptyHistory() };
    storage.saver.track(work, 1);
    await (await openDatabase()).delete('sessions', session.id);
    storage.saver.offer(change(work, 'Rename', (draft) => void (draft.name = 'Pier')));
    storage.saver.flush();
    await whenQuiet();
    expect(told.at(-1)?.[1]).toMatchObject({
      state: 'failed',
      retryAt: null,
      message: expect.stringContaining('deleted'),
    });
    expect(await (await openDatabase()).get('sessions', session.id)).toBeUndefined();
  });
});

describe('stored takes', () => {
  it('come back with their notes, and missing ones say so', async () => {
    const { takes } = sessionOfOneNote('Quay');
    await storeTakes(takes);
    const back = await loadTake(takes[0].key);
    expect(back.notes).toEqual(takes[0].notes);
    expect(back.events).toEqual(takes[0].events);
    await expect(loadTake('gone')).rejects.toThrow('no longer in this browser');
  });

  it('that are not what was stored are refused, not opened as no notes', async () => {
    const { takes } = sessionOfOneNote('Quay');
    const database = await openDatabase();
    const cut = { ...takes[0], events: { ...takes[0].events, length: 0 } };
    await putTakes(database, [cut], 1);
    await expect(loadTake(takes[0].key)).rejects.toThrow('was damaged');
    await database.put('takes', { key: takes[0].key, take: null as never, storedAt: 1 });
    await expect(loadTake(takes[0].key)).rejects.toThrow('was damaged');
  });

  it('are dropped once nothing can bring them back, and not before', async () => {
    const { storage, clock } = createTab();
    const database = await openDatabase();
    const [kept, undone, unused, young] = [60, 61, 62, 63].map((pitch) => sessionOfOneNote('a', pitch));
    const old = clock.now() - 2 * DAY;
    await putTakes(database, [...kept.takes, ...undone.takes, ...unused.takes], old);
    await putTakes(database, young.takes, clock.now() - 1000);
    const { history } = change({ document: kept.session, history: emptyHistory() }, 'Add', (draft) =>
      insertItems(draft.takes, [listOf(undone.session.takes)[0]]),
    );
    await storage.add(kept.session, history);
    await whenQuiet();
    expect(await storage.tidy()).toBe(1);
    await expect(loadTake(unused.takes[0].key)).rejects.toThrow();
    for (const { takes } of [kept, undone, young])
      expect((await loadTake(takes[0].key)).notes.length).toBe(1);
  });

  it('of a deleted session stay for as long as it can be brought back, in any tab', async () => {
    const managers = createLockManagers();
    const [one, two] = [createTab(managers), createTab(managers)];
    const { session, takes } = sessionOfOneNote('Quay');
    await putTakes(await openDatabase(), takes, one.clock.now() - 3 * DAY);
    await one.storage.add(session);
    await whenQuiet();
    const endOffer = one.storage.offer(session.id);
    await one.storage.remove(session.id);
    await two.clock.pass(6 * DAY);
    expect(await two.storage.tidy()).toBeNull();
    // A tab that slept for weeks still offers the undo.
    await two.clock.pass(60 * DAY);
    expect(await two.storage.tidy()).toBeNull();
    await one.storage.bringBack(session.id);
    expect((await loadTake(takes[0].key)).notes.length).toBe(1);
    await one.storage.remove(session.id);
    endOffer();
    await whenQuiet();
    await two.clock.pass(60 * DAY);
    expect(await two.storage.tidy()).toBe(1);
    expect(await two.storage.listDeleted()).toEqual([]);
  });

  it('stay while a session is open anywhere: what it holds in memory may need them', async () => {
    const managers = createLockManagers();
    const [one, two] = [createTab(managers), createTab(managers)];
    const { takes } = sessionOfOneNote('Quay');
    await putTakes(await openDatabase(), takes, one.clock.now() - 3 * DAY);
    const claim = one.storage.locks.claim('some-session');
    await claim.first;
    expect(await two.storage.tidy()).toBeNull();
    claim.release();
    await whenQuiet();
    expect(await two.storage.tidy()).toBe(1);
  });
});

describe('what keeps the database from opening', () => {
  it('is told apart: a newer one, a full disk, storage refused', () => {
    expect(openingError(new DOMException('', 'VersionError'))).toMatchObject({ code: 'database-newer' });
    expect(openingError(new DOMException('', 'QuotaExceededError'))).toMatchObject({ code: 'storage-full' });
    expect(openingError(new DOMException('', 'SecurityError'))).toMatchObject({ code: 'storage-refused' });
    expect(openingError(new TypeError('indexedDB is not there'))).toMatchObject({ code: 'storage-refused' });
  });
});
