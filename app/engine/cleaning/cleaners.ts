import { OrdleError, type Cleaning } from '@ordle/core';
import { proxy, wrap, type Remote } from 'comlink';
import { unpackError, type PackedError } from '@/engine/packedError';
import type { Cleaner, ZippedContent } from './cleaning.worker';

type Answer = { value: unknown } | { error: PackedError };
type Asked = Record<string, (...given: unknown[]) => Answer>;

/** What a thread's call is refused with when the thread was ended on purpose. */
export class Ended extends Error {}

/** One thread that cleans; started with the first call, and anew after it broke or was ended. */
export function createCleaner(start: () => Worker = startWorker) {
  let worker: Worker | null = null;
  let remote: Remote<Asked> | null = null;
  const waiting = new Set<(reason: Error) => void>();

  function drop(reason: Error) {
    worker?.terminate();
    worker = null;
    remote = null;
    const refused = [...waiting];
    waiting.clear();
    for (const refuse of refused) refuse(reason);
  }

  function connected(): Remote<Asked> {
    if (remote) return remote;
    const started = start();
    const fail = () =>
      drop(
        new OrdleError(
          'engine-failed',
          'Working on it broke off: it needs more memory than there is, or Ordle could not be loaded.',
        ),
      );
    started.addEventListener('error', fail);
    started.addEventListener('messageerror', fail);
    worker = started;
    remote = wrap<Asked>(started);
    return remote;
  }

  function ask(name: keyof Cleaner, ...given: unknown[]): Promise<unknown> {
    return new Promise((resolve, reject) => {
      waiting.add(reject);
      (connected()[name](...given) as Promise<Answer>).then(
        (answer) => {
          waiting.delete(reject);
          if ('error' in answer) reject(unpackError(answer.error));
          else resolve(answer.value);
        },
        (error: unknown) => {
          waiting.delete(reject);
          reject(error as Error);
        },
      );
    });
  }

  return {
    clean: (index: number, cleaning: Cleaning) =>
      ask('clean', index, cleaning) as ReturnType<Cleaner['clean']>,
    pictures: (index: number) => ask('pictures', index) as ReturnType<Cleaner['pictures']>,
    sounding: (which: 'given' | 'made', index: number) =>
      ask('sounding', which, index) as ReturnType<Cleaner['sounding']>,
    zipFiles: (files: readonly ZippedContent[]) => ask('zipFiles', files) as ReturnType<Cleaner['zipFiles']>,
    zip: (tell: (done: number) => void) => ask('zip', proxy(tell)) as ReturnType<Cleaner['zip']>,
    /** Ends the thread: whatever it was at is refused with `Ended`. */
    end: () => drop(new Ended('It was stopped.')),
  };
}

export type CleaningThread = ReturnType<typeof createCleaner>;

function startWorker(): Worker {
  return new Worker(new URL('./cleaning.worker.ts', import.meta.url), {
    type: 'module',
    name: 'ordle-cleaning',
  });
}
