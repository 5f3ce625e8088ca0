import { readMidi, sessionOfFile, writeMidi, type Take } from '@ordle/core';
import { fileOfNotes } from '../../../core/testing/files';
import { forgetDatabase, openDatabase, type Database } from '../database';

let next = 0;

/** A session of one made-up file of one note, and its takes. */
export function sessionOfOneNote(name: string, pitch = 60) {
  const { file } = readMidi(writeMidi(fileOfNotes([[0, 10, pitch, 80]])));
  return sessionOfFile(file, name, () => `id${next++}`, 0);
}

const STORES = [
  'sessions',
  'summaries',
  'entries',
  'takes',
  'tables',
  'views',
  'marks',
  'deleted',
  'recordings',
  'played',
] as const;

/** Closes the database of the tests, so that another can be laid in its place. */
export async function closeDatabase(): Promise<void> {
  (await openDatabase()).close();
  forgetDatabase();
}

/** Empties the database of the tests. */
export async function emptyDatabase(): Promise<Database> {
  const database = await openDatabase();
  for (const name of STORES) await database.clear(name);
  return database;
}

/** Puts takes in with an age. */
export async function putTakes(database: Database, takes: readonly Take[], storedAt: number) {
  for (const { key, name, division, tempos, meters, events, endTick } of takes)
    await database.put('takes', {
      key,
      take: { key, name, division, tempos, meters, events, endTick },
      storedAt,
    });
}

/** A database whose disk is full: reading goes on, writing throws as a browser does. */
export function fullDisk(database: Database): Database {
  return new Proxy(database, {
    get(target, property) {
      if (property !== 'transaction') {
        const value: unknown = Reflect.get(target, property);
        return typeof value === 'function' ? value.bind(target) : value;
      }
      return (names: never, mode?: IDBTransactionMode) => {
        if (mode === 'readwrite') throw new DOMException('', 'QuotaExceededError');
        return target.transaction(names, mode as 'readonly');
      };
    },
  });
}

/** Lets everything that is under way in the database end. */
export async function whenQuiet(): Promise<void> {
  for (let turn = 0; turn < 40; turn++) await new Promise((resolve) => setImmediate(resolve));
}

/** A clock that stands until it is moved on, with timers that run as it passes them. */
export function createClock(start: number) {
  let time = start;
  let timers: { at: number; work: () => void }[] = [];
  return {
    now: () => time,
    later(work: () => void, ms: number) {
      const timer = { at: time + ms, work };
      timers.push(timer);
      return () => void (timers = timers.filter((other) => other !== timer));
    },
    async pass(ms: number) {
      const end = time + ms;
      for (;;) {
        const due = timers.filter(({ at }) => at <= end).sort((a, b) => a.at - b.at)[0];
        if (!due) break;
        timers = timers.filter((other) => other !== due);
        time = Math.max(time, due.at);
        due.work();
        await whenQuiet();
      }
      time = end;
      await whenQuiet();
    },
    stop: () => void (timers = []),
  };
}

interface Request {
  tab: number;
  name: string;
  mode: LockMode;
  grant(): void;
}

/** Web Locks for several tabs in one process; a tab that is killed lets go of everything at once. */
export function createLockManagers() {
  let held: Request[] = [];
  let waiting: Request[] = [];
  let tabs = 0;
  const isFree = ({ name, mode }: Request) =>
    held.every((other) => other.name !== name || (mode === 'shared' && other.mode === 'shared'));

  function goOn() {
    for (const request of [...waiting]) {
      if (!waiting.includes(request) || !isFree(request)) continue;
      waiting = waiting.filter((other) => other !== request);
      held.push(request);
      request.grant();
    }
  }

  return {
    tab() {
      const tab = tabs++;
      const manager = {
        request(name: string, options: LockOptions, work: (lock: Lock | null) => unknown) {
          return new Promise((resolve, reject) => {
            const mode = options.mode ?? 'exclusive';
            const request: Request = {
              tab,
              name,
              mode,
              grant() {
                queueMicrotask(() => {
                  void (async () => work({ name, mode }))()
                    .then(resolve, reject)
                    .finally(() => {
                      held = held.filter((other) => other !== request);
                      goOn();
                    });
                });
              },
            };
            if (options.ifAvailable && !isFree(request)) {
              queueMicrotask(() => void (async () => work(null))().then(resolve, reject));
              return;
            }
            options.signal?.addEventListener('abort', () => {
              if (!waiting.includes(request)) return;
              waiting = waiting.filter((other) => other !== request);
              reject(new DOMException('', 'AbortError'));
            });
            waiting.push(request);
            goOn();
          });
        },
        query: async () => ({
          held: held.map(({ name, mode }) => ({ name, mode })),
          pending: waiting.map(({ name, mode }) => ({ name, mode })),
        }),
      };
      return {
        manager: manager as unknown as LockManager,
        kill() {
          held = held.filter((request) => request.tab !== tab);
          waiting = waiting.filter((request) => request.tab !== tab);
          goOn();
        },
      };
    },
  };
}
