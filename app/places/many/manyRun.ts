import { OrdleError, sentenceOf } from '@ordle/core';
import { createCleaner, Ended, type CleaningThread } from '@/engine/cleaning/cleaners';
import { isMusicFile } from '@/files/bringIn';
import {
  beginCleaning,
  forgetMany,
  keepFiles,
  keepResult,
  readMany,
  type ManyCleaning,
  type ManyFile,
} from '@/storage/manyFiles';
import { beginWork } from '@/ui/underWay';
import { createSmallStore } from '@/ui/smallStore';

/** What is under way with the files; `left` is about how many seconds it still takes, null while that is not known. */
export type Doing =
  | { kind: 'reading' }
  | { kind: 'adding'; done: number; all: number }
  | { kind: 'cleaning'; left: number | null }
  | { kind: 'zipping'; done: number; all: number };

export interface Many {
  /** By their index; rows are replaced, never changed. */
  files: readonly ManyFile[];
  cleaning: ManyCleaning | null;
  doing: Doing | null;
  fault: string | null;
}

/** Files that are read and stored at once. */
const AT_ONCE = 24;
/** The page hears of what was done so often, in ms. */
const TOLD_MS = 150;
const MOST_THREADS = 8;
/** What one tab does with the files no other does at once. */
const LOCK = 'ordle-many';

const many = createSmallStore<Many>({ files: [], cleaning: null, doing: { kind: 'reading' }, fault: null });
export const useMany = many.useValue;
const set = (next: Partial<Many>) => many.set({ ...many.get(), ...next });

/** Whatever is under way is to stop. */
let isStopped = false;
let stopNow = () => {};
let hasRead = false;

/** Reads what was begun here, in an earlier visit perhaps. */
export async function openMany(): Promise<void> {
  if (hasRead) return;
  hasRead = true;
  try {
    set({ ...(await readMany()), doing: null });
  } catch (error) {
    hasRead = false;
    set({ doing: null, fault: sentenceOf(error) });
  }
}

/** Does one thing at a time, told as work that a reload would break off; what goes wrong is told as a sentence. */
async function doing(kind: Doing, act: () => Promise<void>): Promise<void> {
  if (many.get().doing) return;
  isStopped = false;
  set({ doing: kind, fault: null });
  const isOver = beginWork('the clean-up');
  try {
    await navigator.locks.request(LOCK, { ifAvailable: true }, async (lock) => {
      if (!lock)
        throw new OrdleError(
          'elsewhere',
          'Another tab is at work on these files. Look there, or wait for it.',
        );
      await act();
    });
  } catch (error) {
    if (!(error instanceof Ended)) set({ fault: sentenceOf(error) });
  } finally {
    isOver();
    stopNow = () => {};
    set({ doing: null });
  }
}

/** Stops what is under way; what is done by then stays. */
export function stopMany(): void {
  isStopped = true;
  stopNow();
}

/** Where a file lay, with its folders; its name alone where it was given by itself. */
function pathOf(file: File): string {
  const { relativePath, webkitRelativePath, name } = file as File & { relativePath?: string };
  return (webkitRelativePath || relativePath || name).replace(/^(\.?\/)+/, '');
}

/** Whether files are being cleaned. */
export const isCleaning = (): boolean => many.get().doing?.kind === 'cleaning';

/** Resolves when nothing is under way. */
const idle = (): Promise<void> =>
  new Promise((resolve) => {
    const look = () => {
      if (many.get().doing) return;
      stop();
      resolve();
    };
    const stop = many.subscribe(look);
    look();
  });

/** Takes files in, as soon as what is under way has ended. Gives how many were left out, being no music. */
export async function addFiles(given: readonly File[]): Promise<number> {
  const music = given.filter(({ name }) => isMusicFile(name));
  // Others may have waited too, and begun.
  while (many.get().doing) await idle();
  if (music.length > 0)
    await doing({ kind: 'adding', done: 0, all: music.length }, async () => {
      // Another tab may have taken some in.
      const before = (await readMany()).files;
      set({ files: before });
      let index = (before.at(-1)?.index ?? -1) + 1;
      for (let done = 0; done < music.length && !isStopped; done += AT_ONCE) {
        const batch = await Promise.all(
          music.slice(done, done + AT_ONCE).map(async (file, at) => {
            const size = file.size;
            const record: ManyFile = {
              index: index + at,
              path: pathOf(file),
              size,
              state: 'waiting',
              made: null,
              sentence: null,
            };
            // A file that went away since it was chosen fails by itself, not with all others.
            const bytes = await file.arrayBuffer().then(
              (buffer) => new Uint8Array(buffer),
              () => null,
            );
            return bytes
              ? { record, bytes }
              : {
                  record: { ...record, state: 'failed' as const, sentence: 'It could not be read any more.' },
                  bytes: new Uint8Array(0),
                };
          }),
        );
        await keepFiles(batch);
        index += batch.length;
        set({
          files: [...many.get().files, ...batch.map(({ record }) => record)],
          doing: { kind: 'adding', done: done + batch.length, all: music.length },
        });
      }
    });
  return given.length - music.length;
}

/** Cleans what waits, in as many threads as there are cores. */
export function startMany(cleaning: ManyCleaning): Promise<void> {
  return doing({ kind: 'cleaning', left: null }, async () => {
    await beginCleaning(cleaning);
    set(await readMany());
    const queue = many
      .get()
      .files.filter(({ state }) => state === 'waiting')
      .map(({ index }) => index);
    const all = queue.length;
    const threads = Array.from(
      { length: Math.max(1, Math.min(MOST_THREADS, navigator.hardwareConcurrency || 2, all)) },
      () => createCleaner(),
    );
    stopNow = () => threads.forEach((thread) => thread.end());
    const telling = tellFrom(all);
    try {
      await Promise.all(
        threads.map(async (thread) => {
          for (let index = queue.shift(); index !== undefined && !isStopped; index = queue.shift())
            telling.take(await cleanOne(thread, index, cleaning));
        }),
      );
    } finally {
      stopNow();
      telling.end();
    }
  });
}

async function cleanOne(
  thread: CleaningThread,
  index: number,
  cleaning: ManyCleaning,
): Promise<ManyFile | null> {
  try {
    return await thread.clean(index, cleaning);
  } catch (error) {
    // Stopped: it waits on, to be gone on with.
    if (error instanceof Ended) return null;
    // The thread broke: this costs its one file. Storage that fails costs all.
    if (!(error instanceof OrdleError) || error.code !== 'engine-failed') throw error;
    const record = many.get().files.find((file) => file.index === index);
    if (!record) return null;
    const failed: ManyFile = { ...record, state: 'failed', made: null, sentence: error.message };
    await keepResult(failed, null);
    return failed;
  }
}

/** Gathers what was done and tells the page now and then, so that it is not drawn anew for each of many files. */
function tellFrom(all: number) {
  const begun = performance.now();
  let gathered: ManyFile[] = [];
  let done = 0;
  const tell = () => {
    const files = [...many.get().files];
    // Indexes are given in order and never again, so that a file is at its place or shortly before it.
    for (const file of gathered) {
      let at = Math.min(file.index, files.length - 1);
      while (at > 0 && files[at].index > file.index) at--;
      if (files[at]?.index === file.index) files[at] = file;
    }
    gathered = [];
    const seconds = (performance.now() - begun) / 1000;
    const left = done < 3 || seconds < 1 ? null : (seconds / done) * (all - done);
    set({ files, doing: { kind: 'cleaning', left } });
  };
  const timer = setInterval(() => gathered.length > 0 && tell(), TOLD_MS);
  return {
    take(file: ManyFile | null) {
      if (!file) return;
      gathered.push(file);
      done++;
    },
    end() {
      clearInterval(timer);
      tell();
    },
  };
}

/** Everything that was made as one zip; null where it was stopped or failed. */
export async function zipMany(): Promise<Blob | null> {
  let zip: Blob | null = null;
  const all = many.get().files.filter(({ state }) => state === 'done').length;
  const thread = createCleaner();
  await doing({ kind: 'zipping', done: 0, all }, async () => {
    stopNow = thread.end;
    try {
      zip = await thread.zip((done) => set({ doing: { kind: 'zipping', done, all } }));
    } finally {
      thread.end();
    }
  });
  return zip;
}

/** Puts all files and what was made of them away. */
export const putAwayMany = (): Promise<void> =>
  doing({ kind: 'reading' }, async () => {
    await forgetMany();
    set({ files: [], cleaning: null });
  });
