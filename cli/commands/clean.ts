import { existsSync, mkdirSync } from 'node:fs';
import path from 'node:path';
import { OrdleError, cleanedName, idleSteps, parseRecipe, type Recipe } from '@ordle/core';
import { readArguments } from '../arguments';
import { cleanAll } from '../cleaning/cleanAll';
import type { CleaningJob, CleaningResult } from '../cleaning/cleanOne';
import { dropOwnPartialFiles, sweepPartialFiles } from '../cleaning/partialFiles';
import { digestOf, readManifest } from '../cleaning/manifest';
import { reasonOf } from '../fileErrors';
import {
  EXIT_SOME_FAILED,
  EXIT_UNUSABLE,
  readInput,
  readInputWhole,
  withName,
  type Surroundings,
} from '../surroundings';
import { VERSION } from '../version';

/** Progress is told at most this often, and only once a call has run this long. */
const PROGRESS_MS = 1000;

/**
 * `ordle clean FILE... [--suggest] [--recipe RECIPE.json] --out DIR [--list -] [--resume] [--overwrite]`: applies a
 * recipe to every part of each file, with `--suggest` what is suggested for each, or first that and then the recipe;
 * many files in parallel. `--list` reads names from standard input, a line each; `--resume` leaves out what a manifest
 * beside the results says is done, and keeps it. Prints a line a file and a summary. Returns 0; 1 when some files
 * failed; 2 when none could be used.
 */
export async function clean(args: readonly string[], surroundings: Surroundings): Promise<number> {
  const { values, positionals } = readArguments(args, {
    recipe: { type: 'string' },
    suggest: { type: 'boolean', default: false },
    out: { type: 'string' },
    list: { type: 'string' },
    resume: { type: 'boolean', default: false },
    overwrite: { type: 'boolean', default: false },
  });
  if (values.list !== undefined && values.list !== '-')
    throw new OrdleError('usage', '--list takes "-" alone: names are read from standard input, one a line.');
  const names = values.list === undefined ? positionals : [...positionals, ...linesOf(surroundings.input())];
  if (names.length === 0 || !(values.recipe || values.suggest) || !values.out) {
    throw new OrdleError(
      'usage',
      'Name the files, the recipe and the folder to write to: ordle clean FILE... --recipe RECIPE.json --out DIR',
    );
  }
  const recipe = values.recipe ? readRecipe(values.recipe, surroundings) : null;
  for (const sentence of idleSteps(recipe?.steps ?? [])) surroundings.complain(sentence);
  const folder = path.resolve(surroundings.directory, values.out);
  try {
    mkdirSync(folder, { recursive: true });
  } catch (error) {
    throw new OrdleError('out-folder', `The folder ${values.out} cannot be made: ${reasonOf(error)}.`);
  }
  sweepPartialFiles(folder);
  const entry = {
    recipe: [
      ...(values.suggest ? ['suggestion'] : []),
      ...(values.recipe ? [digestOf(readInputWhole(values.recipe, surroundings))] : []),
    ].join(' '),
    version: VERSION,
  };
  const resultOf = (name: string) => cleanedName(path.basename(name));
  const manifest = values.resume ? readManifest(folder, entry, new Set(names.map(resultOf))) : null;
  const count = createCount(names.length, surroundings);
  const jobs: CleaningJob[] = [];
  const taken = new Set<string>();
  for (const name of names) {
    const target = path.join(folder, resultOf(name));
    const job: CleaningJob = {
      name,
      source: path.resolve(surroundings.directory, name),
      target,
      ...(manifest && {
        manifest: {
          file: manifest.file,
          ...entry,
          known: manifest.done.get(path.basename(target)) ?? null,
          overwrite: values.overwrite,
        },
      }),
    };
    // With a manifest it is told by what is in the file whether it may be replaced.
    const fault = faultOfTarget(job, taken, values.overwrite || manifest !== null);
    if (fault) count.fail(name, fault);
    else {
      jobs.push(job);
      taken.add(job.target);
    }
  }
  await cleanAll(jobs, {
    cleaning: { suggested: values.suggest, steps: recipe?.steps ?? [] },
    workerFile: surroundings.cleanWorker,
    onResult: (result, job) => count.take(result, job),
    onProgress: (done) => count.progress(done),
    watch: () => dropPartialFilesOnSignal(folder),
  });
  return count.close();
}

const linesOf = (text: string): string[] => text.split(/\r?\n/).filter((line) => line.trim() !== '');

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
  let before = 0;
  let notes = 0;
  let moved = 0;
  let changed = 0;
  let isSuggested = false;
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
      if (result.isDone) {
        before++;
        if (files === 1) print(`${name}: was done before, ${target} was left as it is`);
        return;
      }
      cleaned++;
      notes += result.notes;
      moved += result.moved;
      changed += result.changed;
      const repaired =
        result.repairs === 0 ? '' : `, ${counted(result.repairs, 'repair', 'repairs')} on reading`;
      const { suggested } = result;
      const done = suggested
        ? `${counted(suggested.steps, 'step', 'steps')} suggested for ${suggested.on} of ${counted(suggested.parts, 'part', 'parts')}`
        : `${result.changed} of ${result.notes} notes changed, ${result.moved} of them moved`;
      isSuggested ||= suggested !== undefined;
      print(`${name}: ${done}, written to ${target}${repaired}`);
    },
    progress(done: number) {
      const now = performance.now();
      if (now - spoke < PROGRESS_MS) return;
      spoke = now;
      complain(`${done} of ${files} files (${Math.floor((done / files) * 100)} %)`);
    },
    close(): number {
      if (files > 1) {
        const done = isSuggested
          ? 'each by its own suggestion'
          : `${counted(moved, 'note', 'notes')} moved, ${changed} of ${notes} changed in all`;
        const earlier = before === 0 ? '' : `${before} were done before, `;
        print(
          `${cleaned} of ${files} files cleaned: ${done}, ${earlier}${counted(failed.length, 'file', 'files')} failed`,
        );
        if (failed.length > 0) complain(`Failed: ${failed.join(', ')}`);
      }
      if (failed.length === 0) return 0;
      return cleaned + before === 0 ? EXIT_UNUSABLE : EXIT_SOME_FAILED;
    },
  };
}

const counted = (count: number, one: string, many: string) => `${count} ${count === 1 ? one : many}`;
