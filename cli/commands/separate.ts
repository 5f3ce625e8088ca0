import { existsSync, mkdirSync } from 'node:fs';
import path from 'node:path';
import { OrdleError, readMusic, sentenceOf, separateFile, splitSchema, writeMidi } from '@ordle/core';
import { readArguments } from '../arguments';
import { writeWhole } from '../cleaning/partialFiles';
import { reasonOf } from '../fileErrors';
import { EXIT_SOME_FAILED, EXIT_UNUSABLE, readInput, withName, type Surroundings } from '../surroundings';

/** A file that was separated, for `--json`. */
interface Separated {
  file: string;
  parts: { label: string; file: string; notes: number }[];
}

/**
 * `ordle separate FILE... --by channel|pitch:60|drum|voice|hand --out DIR`: each file as several, NAME.LABEL.mid,
 * every note in exactly one. Returns 0; 1 when some files of several failed; 2 when none could be used. A file whose
 * results would replace others is left whole.
 */
export function separate(args: readonly string[], surroundings: Surroundings): number {
  const { values, positionals } = readArguments(args, {
    by: { type: 'string' },
    out: { type: 'string' },
    overwrite: { type: 'boolean', default: false },
    json: { type: 'boolean', default: false },
  });
  if (positionals.length === 0 || values.by === undefined || values.out === undefined)
    throw new OrdleError(
      'usage',
      'Name the files, how they are divided and the folder to write to: ordle separate FILE... --by channel|pitch:60|drum|voice|hand --out DIR',
    );
  const by = splitSchema.shape.by.safeParse(values.by);
  if (!by.success)
    throw new OrdleError(
      'usage',
      `--by must be channel, drum, voice, hand, or pitch: and a note number 0 to 127, not "${values.by}".`,
    );
  const folder = path.resolve(surroundings.directory, values.out);
  try {
    mkdirSync(folder, { recursive: true });
  } catch (error) {
    throw new OrdleError('out-folder', `The folder ${values.out} cannot be made: ${reasonOf(error)}.`);
  }
  const done: Separated[] = [];
  const taken = new Set<string>();
  for (const name of positionals) {
    try {
      done.push(separateOne(name, by.data, { folder, taken, overwrite: values.overwrite }, surroundings));
    } catch (error) {
      surroundings.complain(withName(name, sentenceOf(error)));
    }
  }
  if (values.json)
    surroundings.print(
      JSON.stringify(positionals.length === 1 && done.length === 1 ? done[0] : { files: done }),
    );
  else
    for (const { file, parts } of done)
      for (const part of parts)
        surroundings.print(`${file}: ${part.label}, ${part.notes} notes, written to ${part.file}`);
  if (done.length === positionals.length) return 0;
  return done.length === 0 ? EXIT_UNUSABLE : EXIT_SOME_FAILED;
}

function separateOne(
  name: string,
  by: string,
  { folder, taken, overwrite }: { folder: string; taken: Set<string>; overwrite: boolean },
  surroundings: Surroundings,
): Separated {
  const { file } = readMusic(readInput(name, surroundings));
  const stem = path.basename(name).replace(/\.(mid|midi|kar|smf|ordle|musicxml|mxl|xml)$/i, '');
  const shares = separateFile(file, by).map((share) => ({
    ...share,
    target: path.join(folder, `${stem}.${share.label}.mid`),
  }));
  if (shares.length === 0)
    throw new OrdleError('no-notes', 'It holds no notes, so there is nothing to separate.');
  for (const { target } of shares) {
    if (taken.has(target))
      throw new OrdleError(
        'out-file',
        `${path.basename(target)} was written for another file of this call; it was left out.`,
      );
    if (existsSync(target) && !overwrite)
      throw new OrdleError('out-file', `${target} is already there; give --overwrite to replace it.`);
  }
  for (const { target, file: share } of shares) {
    writeWhole(target, writeMidi(share));
    taken.add(target);
  }
  return { file: name, parts: shares.map(({ label, target, notes }) => ({ label, file: target, notes })) };
}
