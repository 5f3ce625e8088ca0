import { existsSync, mkdirSync } from 'node:fs';
import path from 'node:path';
import { OrdleError, kindOf, parseRecipe, type Recipe } from '@ordle/core';
import { readArguments } from '../arguments';
import { cleanAll } from '../cleaning/cleanAll';
import type { CleaningJob, CleaningResult } from '../cleaning/cleanOne';
import { dropOwnPartialFiles, sweepPartialFiles } from '../cleaning/partialFiles';
import { reasonOf } from '../fileErrors';
import { EXIT_SOME_FAILED, EXIT_UNUSABLE, readInput, withName, type Surroundings } from '../surroundings';

/** Progress is told at most this often, and only once a call has run this long. */
const PROGRESS_MS = 1000;

/**
 * `ordle clean FILE... --recipe RECIPE.json --out DIR [--overwrite]`: applies a recipe to every part of each file,
 * many files in parallel. Prints a line a file and a summary. Returns 0; 1 when some files failed; 2 when none could
 * be used.
 */
export async function clean(args: readonly string[], surroundings: Surroundings): Promise<number> {
  const { values, positionals } = readArguments(args, {
    recipe: { type: 'string' },
    out: { type: 'string' },
    overwrite: { type: 'boolean', default: false },
  });
  if (positionals.length === 0 || !values.recipe || !values.out) {
    throw new OrdleError(
      'usage',
      'Name the files, the recipe and the folder to write to: ordle clean FILE... --recipe RECIPE.json --out DIR',
    );
  }
  const recipe = readRecipe(values.recipe, surroundings);
  const idle = recipe.steps.find(({ on, kind }) => on && kindOf(kind).followsScore);
  if (idle)
    surroundings.complain(
      `The step “${kindOf(idle.kind).title}” goes by a score that lies beside a part; files have none, so it changes nothing.`,
    );
  const folder = path.resolve(surroundings.directory, values.out);
  try {
    mkdirSync(folder, { recursive: true });
  } catch (error) {
    throw new OrdleError('out-folder', `The folder ${values.out} cannot be made: ${reasonOf(error)}.`);
  }
  sweepPartialFiles(folder);
  const count = createCount(positionals.length, surroundings);
  const jobs: CleaningJob[] = [];
  const taken = new Set<string>();
  for (const name of positionals) {
    const job = {
      name,
      source: path.resolve(surroundings.directory, name),
      target: path.join(folder, path.basename(name).replace(/\.ordle$/i, '.mid')),
    };
    const fault = faultOfTarget(job, taken, values.overwrite);
    if (fault) count.fail(name, fault);
    else {
      jobs.push(job);
      taken.add(job.target);
    }
  }
  await cleanAll(jobs, {
    steps: recipe.steps,
    workerFile: surroundings.cleanWorker,
    onResult: (result, job) => count.take(result, job),
    onProgress: (done) => count.progress(done),
    watch: () => dropPartialFilesOnSignal(folder),
  });
  return count.close();
}

/** A call that is interrupted takes what it has half-written with it. Returns the way to stop watching. */
export function dropPartialFilesOnSignal(folder: string): () => void {
  const signals = { SIGINT: 130, SIGTERM: 143, SIGHUP: 129 } as const;
  const listeners = Object.entries(signals).map(([signal, code]) => {
    const listener = () => {
      dropOwnPartialFiles(folder);
      process.exit(code);
    };
    process.once(signal, listener);
    return () => void process.off(signal, listener);
  });
  return () => listeners.forEach((stop) => stop());
}

/** Reads a recipe named on the command line; what is wrong with it is told with its name. */
export function readRecipe(name: string, surroundings: Surroundings): Recipe {
  const text = new TextDecoder().decode(readInput(name, surroundings));
  try {
    return parseRecipe(text);
  } catch (error) {
    if (error instanceof OrdleError)
      throw new OrdleError(error.code, withName(name, error.message), error.place);
    throw error;
  }
}

/** Why a result must not be written where it would go, or null. */
function faultOfTarget(
  { name, source, target }: CleaningJob,
  taken: Set<string>,
  overwrite: boolean,
): string | null {
  if (taken.has(target)) {
    return `Another input of this call has the same file name, ${path.basename(name)}; it was left out so that it does not replace the first.`;
  }
  if (overwrite) return null;
  if (source === target)
    return 'The result would replace the file itself; choose another folder, or give --overwrite.';
  if (existsSync(target)) return `${target} is already there; give --overwrite to replace it.`;
  return null;
}

/** Keeps count of a call and tells it: a line a file, progress while it lasts, and what it came to. */
function createCount(files: number, { print, complain }: Surroundings) {
  const failed: string[] = [];
  let cleaned = 0;
  let notes = 0;
  let moved = 0;
  let changed = 0;
  let spoke = performance.now();
  const fail = (name: string, sentence: string) => {
    failed.push(name);
    complain(withName(name, sentence));
  };
  return {
    fail,
    take(result: CleaningResult, { name, target }: CleaningJob) {
      if (!result.ok) {
        fail(name, result.sentence);
        return;
      }
      cleaned++;
      notes += result.notes;
      moved += result.moved;
      changed += result.changed;
      const repaired =
        result.repairs === 0 ? '' : `, ${counted(result.repairs, 'repair', 'repairs')} on reading`;
      print(
        `${name}: ${result.changed} of ${result.notes} notes changed, ${result.moved} of them moved, written to ${target}${repaired}`,
      );
    },
    progress(done: number) {
      const now = performance.now();
      if (now - spoke < PROGRESS_MS) return;
      spoke = now;
      complain(`${done} of ${files} files (${Math.floor((done / files) * 100)} %)`);
    },
    close(): number {
      if (files > 1) {
        print(
          `${cleaned} of ${files} files cleaned: ${counted(moved, 'note', 'notes')} moved, ${changed} of ${notes} changed in all, ${counted(failed.length, 'file', 'files')} failed`,
        );
        if (failed.length > 0) complain(`Failed: ${failed.join(', ')}`);
      }
      if (failed.length === 0) return 0;
      return cleaned === 0 ? EXIT_UNUSABLE : EXIT_SOME_FAILED;
    },
  };
}

const counted = (count: number, one: string, many: string) => `${count} ${count === 1 ? one : many}`;
