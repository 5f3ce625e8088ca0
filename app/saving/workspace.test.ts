import 'fake-indexeddb/auto';
import type { Session } from '@ordle/core';
import fc from 'fast-check';
import { openingError } from '@/storage/storageError';
import { createStorage, type Storage } from '@/storage/createStorage';
import type { Database } from '@/storage/database';
import { createLocks } from '@/storage/locks';
import { loadTake } from '@/storage/takes';
import {
  createClock,
  createLockManagers,
  emptyDatabase,
  fullDisk,
  putTakes,
  sessionOfOneNote,
  whenQuiet,
} from '@/storage/testing/storage';
import { createWorkspace, type Workspace } from './createWorkspace';
import { edit, undoLast } from '@/state/sessionSlice';
import { createAppStore } from '@/state/store';

const DAY = 24 * 3600 * 1000;
type Fault = 'none' | 'full' | 'refused';

/** A tab as a person has it: a store, a workspace and storage, over the one database all tabs share. */
function openTab(
  managers: ReturnType<typeof createLockManagers>,
  clock: ReturnType<typeof createClock>,
  database: Database,
) {
  const lockTab = managers.tab();
  const state: { fault: Fault; alive: boolean } = { fault: 'none', alive: true };
  const store = createAppStore();
  const storage: Storage = createStorage({
    locks: createLocks(lockTab.manager),
    onSaving: (id, saving) => workspace.onSaving(id, saving),
    now: clock.now,
    later: (work, ms) => clock.later(() => state.alive && work(), ms),
    async open() {
      if (!state.alive) throw new Error('This tab was killed.');
      if (state.fault === 'refused') throw openingError(new DOMException('', 'SecurityError'));
      return state.fault === 'full' ? fullDisk(database) : database;
    },
  });
  const workspace: Workspace = createWorkspace({
    store,
    storage,
    readView: async () => undefined,
    writeView: async () => undefined,
  });
  return {
    store,
    storage,
    workspace,
    state,
    rename: (name: string) =>
      store.dispatch(edit(`Rename to ${name}`, (draft) => void (draft.name = name)) as never),
    document: (): Session | null => store.getState().session.work?.document ?? null,
    session: () => store.getState().session,
    kill() {
      state.alive = false;
      lockTab.kill();
    },
  };
}

async function setUp(tabs = 1) {
  const database = await emptyDatabase();
  const clock = createClock(1e12);
  const managers = createLockManagers();
  const { session, takes } = sessionOfOneNote('Quay');
  await putTakes(database, takes, clock.now() - 3 * DAY);
  const list = Array.from({ length: tabs }, () => openTab(managers, clock, database));
  await list[0].storage.add(session);
  await whenQuiet();
  return { database, clock, managers, id: session.id, takes, tabs: list };
}

describe('the open session', () => {
  it('is saved within a second of a change, and said to be saved only then', async () => {
    const { clock, database, id, tabs } = await setUp();
    const [tab] = tabs;
    await tab.workspace.open(id);
    expect(tab.session()).toMatchObject({ mayWrite: true, saving: { state: 'saved' } });
    for (let change = 0; change < 20; change++) {
      tab.rename(`Pier ${change}`);
      await clock.pass(100);
    }
    expect((await database.get('sessions', id))?.document.name).toMatch(/Pier 1\d/);
    await clock.pass(1000);
    expect(tab.session().saving.state).toBe('saved');
    expect((await database.get('sessions', id))?.document.name).toBe('Pier 19');
  });

  it('is not said to be saved when storage is refused, also right after an import', async () => {
    const { id, tabs } = await setUp();
    const [tab] = tabs;
    tab.state.fault = 'refused';
    const { session } = sessionOfOneNote('Berth');
    await tab.storage.add(session);
    await tab.workspace.open(session.id);
    expect(tab.session().saving).toMatchObject({
      state: 'failed',
      message: expect.stringContaining('refuses'),
    });
    expect(id).not.toBe(session.id);
  });

  it('can be left unsaved, is found again as it was, and is saved when that is possible', async () => {
    const { clock, database, id, tabs } = await setUp();
    const [tab] = tabs;
    await tab.workspace.open(id);
    tab.state.fault = 'full';
    tab.rename('Pier');
    await clock.pass(1000);
    expect(tab.session().saving).toMatchObject({ state: 'failed' });
    tab.workspace.close();
    expect(await tab.storage.list()).toMatchObject([{ name: 'Pier', unsaved: expect.any(String) }]);
    await tab.workspace.open(id);
    expect(tab.document()?.name).toBe('Pier');
    expect(tab.session().saving.state).toBe('failed');
    tab.store.dispatch(undoLast() as never);
    expect(tab.document()?.name).toBe('Quay');
    tab.rename('Berth');
    tab.workspace.close();
    tab.state.fault = 'none';
    await clock.pass(60_000);
    expect((await database.get('sessions', id))?.document.name).toBe('Berth');
    expect(tab.storage.saver.allUnsaved()).toEqual([]);
  });

  it('is taken over with the work of the other tab, and takes no change before that', async () => {
    const { clock, database, id, tabs } = await setUp(2);
    const [one, two] = tabs;
    await one.workspace.open(id);
    await two.workspace.open(id);
    expect(two.session().mayWrite).toBe(false);
    one.rename('by the first');
    one.workspace.close();
    // Nothing may be changed before the newest state is there.
    for (let turn = 0; turn < 60 && !two.session().mayWrite; turn++) {
      two.rename('on the old state');
      expect(two.document()?.name).toBe('Quay');
      await new Promise((resolve) => setImmediate(resolve));
    }
    expect(two.document()?.name).toBe('by the first');
    two.rename('by the second');
    await clock.pass(1000);
    expect((await database.get('sessions', id))?.document.name).toBe('by the second');
  });

  it('stays the one asked for when a take-over ends late', async () => {
    const { id, tabs } = await setUp(2);
    const [one, two] = tabs;
    const other = sessionOfOneNote('Berth').session;
    await one.storage.add(other);
    await one.workspace.open(id);
    await two.workspace.open(id);
    one.workspace.close();
    await two.workspace.open(other.id);
    await whenQuiet();
    expect(two.document()?.id).toBe(other.id);
  });

  it('keeps a copy under another id when it was deleted elsewhere', async () => {
    const { clock, database, id, tabs } = await setUp();
    const [tab] = tabs;
    await tab.workspace.open(id);
    await database.delete('sessions', id);
    tab.rename('Pier');
    await clock.pass(1000);
    expect(tab.session().saving).toMatchObject({ state: 'failed', retryAt: null });
    await tab.workspace.keepCopy('copy');
    tab.workspace.close();
    expect((await tab.storage.load('copy')).document.name).toBe('Pier, copy');
    expect(await tab.storage.list()).toHaveLength(1);
  });
});

/** One thing done by a person, or to them. */
const action = fc.oneof(
  { weight: 6, arbitrary: fc.record({ kind: fc.constant('rename' as const), tab: fc.nat(1) }) },
  {
    weight: 4,
    arbitrary: fc.record({ kind: fc.constant('wait' as const), ms: fc.constantFrom(50, 300, 1000, 70_000) }),
  },
  { weight: 2, arbitrary: fc.record({ kind: fc.constant('undo' as const), tab: fc.nat(1) }) },
  { weight: 3, arbitrary: fc.record({ kind: fc.constant('open' as const), tab: fc.nat(1), at: fc.nat(2) }) },
  { weight: 2, arbitrary: fc.record({ kind: fc.constant('close' as const), tab: fc.nat(1) }) },
  { weight: 2, arbitrary: fc.record({ kind: fc.constant('kill' as const), tab: fc.nat(1) }) },
  {
    weight: 2,
    arbitrary: fc.record({
      kind: fc.constant('fault' as const),
      tab: fc.nat(1),
      fault: fc.constantFrom<Fault>('none', 'full', 'refused'),
    }),
  },
  {
    weight: 2,
    arbitrary: fc.record({ kind: fc.constant('remove' as const), tab: fc.nat(1), at: fc.nat(2) }),
  },
  {
    weight: 2,
    arbitrary: fc.record({ kind: fc.constant('bringBack' as const), tab: fc.nat(1), at: fc.nat(2) }),
  },
  {
    weight: 1,
    arbitrary: fc.record({ kind: fc.constant('shelfRename' as const), tab: fc.nat(1), at: fc.nat(2) }),
  },
  { weight: 1, arbitrary: fc.record({ kind: fc.constant('tidy' as const), tab: fc.nat(1) }) },
);

describe('storage against a model', () => {
  it('keeps what was said to be saved through edits, kills, faults, two tabs, deletions and undos', async () => {
    let saves = 0;
    let kills = 0;
    await fc.assert(
      fc.asyncProperty(fc.array(action, { minLength: 5, maxLength: 40 }), async (actions) => {
        const { database, clock, managers, tabs } = await setUp(2);
        const ids: string[] = (await tabs[0].storage.list()).map(({ id }) => id);
        for (const pitch of [61, 62]) {
          const made = sessionOfOneNote(`Quay ${pitch}`, pitch);
          await putTakes(database, made.takes, clock.now() - 3 * DAY);
          await tabs[0].storage.add(made.session);
          ids.push(made.session.id);
        }
        /** The model: what each session was last said to be, and whether it is there at all. */
        const said = new Map(ids.map((id) => [id, '']));
        const there = new Set(ids);
        /** Names given since: what is stored is one of them or what was last said. */
        const given = new Map(ids.map((id) => [id, new Set<string>()]));
        for (const id of ids) said.set(id, (await database.get('sessions', id))?.document.name ?? '');
        let count = 0;

        const listen = (tab: (typeof tabs)[number]) =>
          tab.store.subscribe(() => {
            const { work, saving } = tab.session();
            if (!work || !tab.state.alive || saving.state !== 'saved' || !tab.session().mayWrite) return;
            saves++;
            said.set(work.document.id, work.document.name);
            given.get(work.document.id)?.clear();
          });
        tabs.forEach(listen);

        async function check() {
          for (const id of ids) {
            const record = await database.get('sessions', id);
            if (!there.has(id)) {
              expect(record).toBeUndefined();
              continue;
            }
            const name = record?.document.name ?? '(gone)';
            expect([said.get(id), ...(given.get(id) ?? [])]).toContain(name);
            // Whatever the history says can be undone.
            for (const key of record?.document.takes.order ?? [])
              expect((await loadTake(key)).notes.length).toBe(1);
          }
        }

        for (const act of actions) {
          const tab = 'tab' in act ? tabs[act.tab] : tabs[0];
          const id = 'at' in act ? ids[act.at] : '';
          const open = tab.document()?.id;
          if (act.kind === 'wait') await clock.pass(act.ms);
          else if (act.kind === 'rename' && open !== undefined) {
            const name = `name ${count++}`;
            if (tab.session().mayWrite) given.get(open)?.add(name);
            tab.rename(name);
          } else if (act.kind === 'undo') {
            tab.store.dispatch(undoLast() as never);
            const name = tab.document()?.name;
            if (open !== undefined && name !== undefined) given.get(open)?.add(name);
          } else if (act.kind === 'open') await tab.workspace.open(id).catch(() => undefined);
          else if (act.kind === 'close') tab.workspace.close();
          else if (act.kind === 'fault') tab.state.fault = act.fault;
          else if (act.kind === 'kill') {
            kills++;
            tab.kill();
            await whenQuiet();
            await check();
            tabs[act.tab] = openTab(managers, clock, database);
            listen(tabs[act.tab]);
          } else if (act.kind === 'remove') {
            tab.workspace.close();
            const done = await tab.storage.remove(id).then(
              () => true,
              () => false,
            );
            if (done) there.delete(id);
          } else if (act.kind === 'bringBack') {
            const done = await tab.storage.bringBack(id).then(
              () => true,
              () => false,
            );
            if (done) there.add(id);
          } else if (act.kind === 'shelfRename') {
            tab.workspace.close();
            const name = `shelf ${count++}`;
            given.get(id)?.add(name);
            const done = await tab.storage.rename(id, name).then(
              () => true,
              () => false,
            );
            if (done && !tab.storage.saver.unsaved(id)) {
              said.set(id, name);
              given.get(id)?.clear();
            }
          } else if (act.kind === 'tidy') await tab.storage.tidy().catch(() => 0);
          await whenQuiet();
        }
        await check();
        // Once nothing is in the way any more, everything is stored as it was last seen.
        for (const tab of tabs) tab.state.fault = 'none';
        await clock.pass(200_000);
        for (const tab of tabs) {
          expect(tab.storage.saver.allUnsaved()).toEqual([]);
          const document = tab.document();
          if (document && tab.session().mayWrite)
            expect((await database.get('sessions', document.id))?.document).toEqual(document);
          tab.workspace.close();
          tab.kill();
        }
        await whenQuiet();
      }),
      { numRuns: Number(process.env.RUNS ?? 80) },
    );
    // The sequences did reach what they are meant to try.
    expect(saves).toBeGreaterThan(50);
    expect(kills).toBeGreaterThan(30);
  }, 120_000);
});
