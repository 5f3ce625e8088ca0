import { statSync } from 'node:fs';
import { availableParallelism } from 'node:os';
import { Worker } from 'node:worker_threads';
import type { Cleaning } from '@ordle/core';
import { cleanOne, type CleaningJob, type CleaningResult } from './cleanOne';
import { writeWhole } from './partialFiles';

/** Fewer files than this, and no more bytes, are done sooner than a thread starts. */
const WORTH_THREADS = 8;
const WORTH_BYTES = 4_000_000;

export interface CleaningOptions {
  cleaning: Cleaning;
  /** The script of the cleaning thread; without one everything runs here. */
  workerFile: string | null;
  /** Called for every job, in the order of the jobs. */
  onResult(result: CleaningResult, job: CleaningJob, index: number): void;
  /** Called whenever a job is done, in any order. */
  onProgress(done: number): void;
  /** Takes care that a signal leaves nothing half-written, from now on; returns the way to stop. */
  watch?(): () => void;
}

/** Cleans many files, in parallel where there are enough of them. Results are told in the order of the jobs. */
export async function cleanAll(jobs: readonly CleaningJob[], options: CleaningOptions): Promise<void> {
  const { cleaning, workerFile, onResult, onProgress, watch = () => () => {} } = options;
  const results: (CleaningResult | undefined)[] = [];
  let told = 0;
  let done = 0;
  const settle = (index: number, result: CleaningResult) => {
    results[index] = result;
    onProgress(++done);
    for (let next = results[told]; next; next = results[told]) onResult(next, jobs[told], told++);
  };
  // Large files get threads however few they are: one that needs too much memory then ends its thread, not the call.
  const large = bytesOf(jobs) > WORTH_BYTES;
  if (!workerFile || (jobs.length < WORTH_THREADS && !large)) {
    for (const [index, job] of jobs.entries()) {
      // A signal is heard between two pieces of work only, so it is looked after only while something is written:
      // else it ends the call at once, whatever that is at.
      let stopWatching = () => {};
      const write: typeof writeWhole = (...given) => {
        stopWatching = watch();
        writeWhole(...given);
      };
      settle(index, cleanOne(job, cleaning, write));
      await new Promise((resolve) => setImmediate(resolve));
      stopWatching();
    }
    return;
  }
  const stopWatching = watch();
  const queue = jobs.entries();
  const wanted = large ? jobs.length : Math.ceil(jobs.length / (WORTH_THREADS / 2));
  const threads = Math.min(availableParallelism(), wanted);
  await Promise.all(
    Array.from({ length: threads }, async () => {
      let worker: Worker | null = null;
      for (const [index, job] of queue) {
        worker ??= new Worker(workerFile, { workerData: { cleaning } });
        const { result, alive } = await ask(worker, job);
        if (!alive) worker = null;
        settle(index, result);
      }
      await worker?.terminate();
    }),
  ).finally(stopWatching);
}

function bytesOf(jobs: readonly CleaningJob[]): number {
  return jobs.reduce((sum, { source }) => sum + (statSync(source, { throwIfNoEntry: false })?.size ?? 0), 0);
}

function reasonOfBreak(error: unknown): string {
  const isMemory = (error as { code?: unknown } | null)?.code === 'ERR_WORKER_OUT_OF_MEMORY';
  return isMemory ? 'it needs more memory than there is.' : String(error);
}

/** A thread that breaks (out of memory, a fault of ours) costs its one file, not the call. */
function ask(worker: Worker, job: CleaningJob): Promise<{ result: CleaningResult; alive: boolean }> {
  return new Promise((resolve) => {
    const settle = (result: CleaningResult, alive: boolean) => {
      worker.off('message', onMessage);
      worker.off('error', onError);
      worker.off('exit', onExit);
      resolve({ result, alive });
    };
    const fail = (reason: string) =>
      settle({ ok: false, sentence: `It could not be cleaned: ${reason}` }, false);
    const onMessage = (result: CleaningResult) => settle(result, true);
    const onError = (error: unknown) => fail(reasonOfBreak(error));
    const onExit = () => fail('the thread ended.');
    worker.on('message', onMessage);
    worker.on('error', onError);
    worker.on('exit', onExit);
    worker.postMessage(job);
  });
}
