import 'fake-indexeddb/auto';
import {
  change,
  countOf,
  emptyHistory,
  jump,
  withEarlier,
  type HistoryEntry,
  type Work,
} from '@/history/history';
import { createStorage } from './createStorage';
import type { Database } from './database';
import { ENTRIES_IN_MEMORY } from './historyRecords';
import { createLocks } from './locks';
import { emptyDatabase, sessionOfOneNote } from './testing/storage';

const LONG = ENTRIES_IN_MEMORY + 700;

/** A session with a long history of names. */
function longWork(): Work {
  const { session } = sessionOfOneNote('name 0');
  const of = (count: number) => [{ op: 'replace' as const, path: ['name'], value: `name ${count}` }];
  const done = Array.from({ length: LONG }, (_, at): HistoryEntry => ({
    label: `Rename ${at + 1}`, at, gesture: null, forward: of(at + 1), backward: of(at),
  })); // prettier-ignore
  return { document: { ...session, name: `name ${LONG}` }, history: { ...emptyHistory(), done } };
}

/** Counts what is written to the store of actions. */
function counting(database: Database): { database: Database; puts(): number } {
  let puts = 0;
  const counted = (store: object): object =>
    new Proxy(store, {
      get(target, property) {
        const value: unknown = Reflect.get(target, property);
        if (property === 'put') puts++;
        return typeof value === 'function' ? value.bind(target) : value;
      },
    });
  const proxy = new Proxy(database, {
    get(target, property) {
      const value: unknown = Reflect.get(target, property);
      if (property !== 'transaction') return typeof value === 'function' ? value.bind(target) : value;
      return (names: never, mode: never) => {
        const transaction = target.transaction(names, mode) as unknown as Record<string, unknown>;
        return new Proxy(transaction, {
          get(own, key) {
            const member: unknown = Reflect.get(own, key);
            if (key === 'objectStore')
              return (name: string) => {
                const store = (member as (store: string) => object).call(own, name);
                return name === 'entries' ? counted(store) : store;
              };
            return typeof member === 'function' ? member.bind(own) : member;
          },
        });
      };
    },
  });
  return { database: proxy, puts: () => puts };
}

describe('a long history', () => {
  it('is stored action by action, read from its end, and read on as it is looked at', async () => {
    const { database, puts } = counting(await emptyDatabase());
    const storage = createStorage({
      locks: createLocks(undefined),
      onSaving: () => undefined,
      open: () => Promise.resolve(database),
    });
    const work = longWork();
    const { id } = work.document;
    await storage.add(work.document, work.history);
    expect(puts()).toBe(LONG);
    const loaded = await storage.load(id);
    expect([loaded.history.done.length, loaded.history.earlier]).toEqual([ENTRIES_IN_MEMORY, 700]);
    expect(countOf(loaded.history)).toBe(LONG);
    // One more action is one more record.
    const next = change(loaded, 'Rename', (draft) => void (draft.name = 'another'));
    storage.saver.track(loaded, loaded.changedAt);
    storage.saver.offer(next);
    storage.saver.flush();
    await storage.saver.settled(id);
    expect(puts()).toBe(LONG + 1);
    // Undone and done otherwise, what lay beyond is gone.
    const back = change(jump(next, LONG - 3), 'Rename', (draft) => void (draft.name = 'otherwise'));
    storage.saver.offer(back);
    storage.saver.flush();
    await storage.saver.settled(id);
    expect(puts()).toBe(LONG + 2);
    const again = await storage.load(id);
    expect([countOf(again.history), again.history.undone.length]).toEqual([LONG - 2, 0]);
    expect(again.history.done.at(-1)?.label).toBe('Rename');
    const { earlier = 0 } = again.history;
    const older = withEarlier(again, await storage.earlier(id, 5, earlier));
    expect(jump(older, 10).document.name).toBe('name 10');
    // Only what is in memory can be gone to.
    expect(jump(older, 0).document.name).toBe('name 5');
  });

  it('goes along whole into a copy, and into a deleted session and back', async () => {
    await emptyDatabase();
    const storage = createStorage({ locks: createLocks(undefined), onSaving: () => undefined });
    const work = longWork();
    const { id } = work.document;
    await storage.add(work.document, work.history);
    await storage.duplicate(id, 'copy');
    await storage.remove(id);
    await storage.bringBack(id);
    for (const each of [id, 'copy']) {
      const loaded = await storage.load(each);
      const whole = withEarlier(loaded, await storage.earlier(each, 0, loaded.history.earlier ?? 0));
      expect(whole.history.done.map(({ label }) => label)).toEqual(
        work.history.done.map(({ label }) => label),
      );
    }
  });
});
