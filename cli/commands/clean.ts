import { existsSync, mkdirSync, renameSync, rmSync, writeFileSync } from 'node:fs';
import path from 'node:path';
import {
  OrdleError,
  cleanFile,
  parseRecipe,
  readMidi,
  sentenceOf,
  writeMidi,
  type Recipe,
} from '@ordle/core';
import { readArguments } from '../arguments';
import { EXIT_UNUSABLE, readInput, type Surroundings } from '../surroundings';
import { withName } from './inspect';

/** `ordle clean FILE... --recipe RECIPE.json --out DIR [--overwrite]`: applies a recipe to every part of each file. */
export function clean(args: readonly string[], surroundings: Surroundings): number {
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
  const folder = path.resolve(surroundings.directory, values.out);
  try {
    mkdirSync(folder, { recursive: true });
  } catch (error) {
    throw new OrdleError('out-folder', `The folder ${values.out} cannot be made: ${sentenceOf(error)}`);
  }
  const written = new Set<string>();
  let code = 0;
  for (const name of positionals) {
    try {
      const target = path.join(folder, path.basename(name));
      checkTarget(target, name, written, values.overwrite, surroundings);
      surroundings.print(`${name}: ${cleanOne(name, target, recipe, surroundings)}`);
      written.add(target);
    } catch (error) {
      if (!(error instanceof OrdleError)) throw error;
      surroundings.complain(withName(name, sentenceOf(error)));
      code = EXIT_UNUSABLE;
    }
  }
  return code;
}

function readRecipe(name: string, surroundings: Surroundings): Recipe {
  const text = new TextDecoder().decode(readInput(name, surroundings));
  try {
    return parseRecipe(text);
  } catch (error) {
    if (error instanceof OrdleError)
      throw new OrdleError(error.code, withName(name, error.message), error.place);
    throw error;
  }
}

function checkTarget(
  target: string,
  name: string,
  written: Set<string>,
  overwrite: boolean,
  { directory }: Surroundings,
) {
  if (written.has(target)) {
    throw new OrdleError(
      'same-name',
      `Another input of this call has the same file name, ${path.basename(name)}; it was left out so that it does not replace the first.`,
    );
  }
  if (path.resolve(directory, name) === target && !overwrite) {
    throw new OrdleError(
      'exists',
      'The result would replace the file itself; choose another folder, or give --overwrite.',
    );
  }
  if (existsSync(target) && !overwrite) {
    throw new OrdleError('exists', `${target} is already there; give --overwrite to replace it.`);
  }
}

function cleanOne(name: string, target: string, recipe: Recipe, surroundings: Surroundings): string {
  const { file, repairs } = readMidi(readInput(name, surroundings));
  const cleaned = cleanFile(file, recipe.steps);
  writeWhole(target, writeMidi(cleaned.file));
  const repaired =
    repairs.length === 0
      ? ''
      : `, ${repairs.length} ${repairs.length === 1 ? 'repair' : 'repairs'} on reading`;
  return `${cleaned.changed} of ${cleaned.notes} notes changed, written to ${target}${repaired}`;
}

/** Writes beside the target and renames, so that an interrupted call never leaves half a file under the name. */
function writeWhole(target: string, bytes: Uint8Array) {
  const partial = `${target}.${process.pid}.part`;
  try {
    writeFileSync(partial, bytes);
    renameSync(partial, target);
  } catch (error) {
    rmSync(partial, { force: true });
    throw new OrdleError(
      'write',
      `${target} cannot be written: ${error instanceof Error ? error.message : String(error)}`,
    );
  }
}
