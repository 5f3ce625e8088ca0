import 'fake-indexeddb/auto';
import { createStep, readMidi, sessionOfFile, writeMidi, type Session } from '@ordle/core';
import { fileOfNotes } from '../../core/testing/files';
import { change, emptyHistory } from '@/state/history';
import { openDatabase } from './database';
import {
  deleteSession,
  duplicateSession,
  listSessions,
  loadSession,
  renameSession,
  saveSession,
} from './sessions';
import { dropUnusedTakes, loadTake, storeTakes } from './takes';

let next = 0;
function made(name: string, pitch = 60) {
  const { file } = readMidi(writeMidi(fileOfNotes([[0, 10, pitch, 80]])));
  return sessionOfFile(file, name, () => `id${next++}`, 0);
}

beforeEach(async () => {
  const database = await openDatabase();
  for (const store of ['sessions', 'histories', 'takes'] as const) await database.clear(store);
});

describe('stored sessions', () => {
  it('come back as they were saved, history and all', async () => {
    const { session } = made('Quay');
    const work = change(
      { document: session, history: emptyHistory() },
      'Add quantize',
      (draft) => void draft.parts[0].steps.push({ id: 's', step: createStep('quantize') }),
    );
    await saveSession(work.document, work.history);
    const loaded = await loadSession(session.id);
    expect(loaded.document).toEqual(work.document);
    expect(loaded.history).toEqual(work.history);
  });

  it('are listed newest first, renamed, duplicated, deleted and brought back', async () => {
    const { session } = made('Quay');
    await saveSession(session, emptyHistory());
    await renameSession(session.id, 'Pier');
    await duplicateSession(session.id, 'copy');
    expect((await listSessions()).map(({ name }) => name).sort()).toEqual(['Pier', 'Pier, copy']);
    const bringBack = await deleteSession(session.id);
    expect((await listSessions()).map(({ name }) => name)).toEqual(['Pier, copy']);
    await bringBack();
    expect((await loadSession(session.id)).document.name).toBe('Pier');
  });

  it('that cannot be read are refused with the place, and left as they are', async () => {
    const { session } = made('Quay');
    const database = await openDatabase();
    const broken = { ...session, parts: [{ ...session.parts[0], ink: 99 }] } as Session;
    await database.put('sessions', { id: session.id, document: broken, changedAt: 1 });
    await expect(loadSession(session.id)).rejects.toThrow('parts.0.ink');
    expect((await database.get('sessions', session.id))?.document).toEqual(broken);
    await database.put('sessions', {
      id: session.id,
      document: { ...session, version: 99 } as unknown as Session,
      changedAt: 1,
    });
    await expect(loadSession(session.id)).rejects.toThrow('newer Ordle');
    await expect(loadSession('nowhere')).rejects.toThrow('no such session');
  });

  it('open without their history when only that is broken', async () => {
    const { session } = made('Quay');
    await saveSession(session, emptyHistory());
    const database = await openDatabase();
    await database.put('histories', { id: session.id, history: { done: 'x' } as never });
    expect((await loadSession(session.id)).history).toEqual(emptyHistory());
  });
});

describe('stored takes', () => {
  it('come back with their notes, and missing ones say so', async () => {
    const { takes } = made('Quay');
    await storeTakes(takes);
    const back = await loadTake(takes[0].key);
    expect(back.notes).toEqual(takes[0].notes);
    expect(back.events).toEqual(takes[0].events);
    await expect(loadTake('gone')).rejects.toThrow('no longer in this browser');
  });

  it('that nobody needs any more are dropped after a day; those of a session or a history stay', async () => {
    const [kept, undone, unused] = [made('a', 60), made('b', 61), made('c', 62)];
    await storeTakes([...kept.takes, ...undone.takes, ...unused.takes]);
    const history = change(
      { document: kept.session, history: emptyHistory() },
      'Add',
      (draft) => void draft.takes.push(undone.session.takes[0]),
    ).history;
    await saveSession(kept.session, history);
    expect(await dropUnusedTakes(Date.now())).toBe(0);
    expect(await dropUnusedTakes(Date.now() + 25 * 3600 * 1000)).toBe(1);
    await expect(loadTake(unused.takes[0].key)).rejects.toThrow();
    expect((await loadTake(undone.takes[0].key)).notes.length).toBe(1);
  });
});
