import { OrdleError } from '@ordle/core';
import { wrap, type Remote } from 'comlink';
import { rememberTakes, rememberedTakes } from '@/storage/takes';
import { unpackError, type PackedError } from './packedError';
import type { Engine } from './protocol';

type Answer = { value: unknown } | { error: PackedError };

let worker: Worker | null = null;
let remote: Remote<Record<string, (...args: unknown[]) => Answer>> | null = null;
/** Calls under way, to be refused when the worker is stopped. */
const waiting = new Set<(reason: Error) => void>();

/** What a call is refused with when the work was cancelled. */
export class Cancelled extends Error {
  constructor() {
    super('The work was cancelled.');
    this.name = 'Cancelled';
  }
}

function connect() {
  if (!remote) {
    const started = new Worker(new URL('./engine.worker.ts', import.meta.url), {
      type: 'module',
      name: 'ordle-engine',
    });
    worker = started;
    const fail = (event: Event) => {
      if (worker === started) drop(brokenBy(event));
    };
    // Its script could not be loaded, or something in it broke that no call could answer for.
    started.addEventListener('error', fail);
    started.addEventListener('messageerror', fail);
    remote = wrap(started);
    const takes = rememberedTakes();
    if (takes.length > 0) void call('adopt', [takes]).catch(() => undefined);
  }
  return remote;
}

function brokenBy(event: Event): OrdleError {
  const reason = event instanceof ErrorEvent && event.message ? ` (${event.message})` : '';
  return new OrdleError(
    'engine-failed',
    `The part of Ordle that works out the music broke off or could not be loaded${reason}. Try again; if that does not help, reload the page. What was saved is safe.`,
  );
}

/** Ends the worker and refuses every call under way; the next call starts another. */
function drop(reason: Error) {
  worker?.terminate();
  worker = null;
  remote = null;
  const refused = [...waiting];
  waiting.clear();
  for (const refuse of refused) refuse(reason);
}

/** Stops whatever the worker is doing. Takes come back from storage when they are next needed. */
export function cancelEngine(): void {
  drop(new Cancelled());
}

function call(name: string, args: unknown[]): Promise<unknown> {
  return new Promise((resolve, reject) => {
    waiting.add(reject);
    const done = () => waiting.delete(reject);
    (connect()[name](...args) as Promise<Answer>).then(
      (answer) => {
        done();
        if ('error' in answer) reject(unpackError(answer.error));
        else resolve(answer.value);
      },
      (error: Error) => {
        done();
        reject(error);
      },
    );
  });
}

/** Has takes the browser would not store kept by this page, until it does. */
async function keeping<T extends { unkept: Parameters<typeof rememberTakes>[0] }>(
  answer: Promise<unknown>,
): Promise<T> {
  const made = (await answer) as T;
  rememberTakes(made.unkept);
  return made;
}

/** The worker's calls with their types; an OrdleError in the worker is an OrdleError here. */
export const engine: Engine = {
  adopt: (...args) => call('adopt', args) as ReturnType<Engine['adopt']>,
  importFile: (...args) => keeping(call('importFile', args)),
  joinFile: (...args) => keeping(call('joinFile', args)),
  buildPlan: (...args) => keeping(call('buildPlan', args)),
  viewPart: (...args) => call('viewPart', args) as ReturnType<Engine['viewPart']>,
  playback: (...args) => call('playback', args) as ReturnType<Engine['playback']>,
  pickNotes: (...args) => call('pickNotes', args) as ReturnType<Engine['pickNotes']>,
  touchedNotes: (...args) => call('touchedNotes', args) as ReturnType<Engine['touchedNotes']>,
  factsOf: (...args) => call('factsOf', args) as ReturnType<Engine['factsOf']>,
  noteStory: (...args) => call('noteStory', args) as ReturnType<Engine['noteStory']>,
  takeGroove: (...args) => call('takeGroove', args) as ReturnType<Engine['takeGroove']>,
  alongEdits: (...args) => call('alongEdits', args) as ReturnType<Engine['alongEdits']>,
  clipsOf: (...args) => call('clipsOf', args) as ReturnType<Engine['clipsOf']>,
  layClips: (...args) => call('layClips', args) as ReturnType<Engine['layClips']>,
  fold: (...args) => keeping(call('fold', args)),
  unfold: (...args) => call('unfold', args) as ReturnType<Engine['unfold']>,
  exportFile: (...args) => call('exportFile', args) as ReturnType<Engine['exportFile']>,
};
