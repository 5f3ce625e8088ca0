import { wrap, type Remote } from 'comlink';
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
    worker = new Worker(new URL('./engine.worker.ts', import.meta.url), {
      type: 'module',
      name: 'ordle-engine',
    });
    remote = wrap(worker);
  }
  return remote;
}

/** Stops whatever the worker is doing. Takes come back from storage when they are next needed. */
export function cancelEngine(): void {
  worker?.terminate();
  worker = null;
  remote = null;
  for (const refuse of waiting) refuse(new Cancelled());
  waiting.clear();
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

/** The worker's calls with their types; an OrdleError in the worker is an OrdleError here. */
export const engine: Engine = {
  importFile: (...args) => call('importFile', args) as ReturnType<Engine['importFile']>,
  joinFile: (...args) => call('joinFile', args) as ReturnType<Engine['joinFile']>,
  buildPlan: (...args) => call('buildPlan', args) as ReturnType<Engine['buildPlan']>,
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
  fold: (...args) => call('fold', args) as ReturnType<Engine['fold']>,
  unfold: (...args) => call('unfold', args) as ReturnType<Engine['unfold']>,
  exportFile: (...args) => call('exportFile', args) as ReturnType<Engine['exportFile']>,
};
