import { existsSync } from 'node:fs';
import path from 'node:path';
import { OrdleError, fileFindings, readMusic, sentenceOf, writeMidi, type FileFinding } from '@ordle/core';
import { readArguments } from '../arguments';
import { writeWhole } from '../cleaning/partialFiles';
import { EXIT_SOME_FAILED, EXIT_UNUSABLE, readInput, withName, type Surroundings } from '../surroundings';

/**
 * `ordle findings FILE... [--json] [--mend OUT.mid]`: what is probably wrong with each file, and why; with `--mend`
 * one file with every mend done. Returns 0; 1 when some files of several failed; 2 when none could be used.
 */
export function findings(args: readonly string[], surroundings: Surroundings): number {
  const { values, positionals } = readArguments(args, {
    mend: { type: 'string' },
    overwrite: { type: 'boolean', default: false },
    json: { type: 'boolean', default: false },
  });
  if (positionals.length === 0)
    throw new OrdleError(
      'usage',
      'Name the files: ordle findings FILE... [--json], or ordle findings FILE --mend OUT.mid',
    );
  if (values.mend !== undefined && positionals.length > 1)
    throw new OrdleError('usage', '--mend goes with one file; name one at a time.');
  const target = values.mend === undefined ? null : path.resolve(surroundings.directory, values.mend);
  if (target !== null && existsSync(target) && !values.overwrite)
    throw new OrdleError(
      'out-file',
      `${values.mend ?? ''} is already there; give --overwrite to replace it.`,
    );
  const done: { file: string; findings: FileFinding[] }[] = [];
  for (const name of positionals) {
    try {
      const found = fileFindings(readMusic(readInput(name, surroundings)).file);
      if (target !== null) writeWhole(target, writeMidi(found.mended()));
      done.push({ file: name, findings: found.findings });
      if (!values.json) tell(name, found.findings, surroundings);
    } catch (error) {
      surroundings.complain(withName(name, sentenceOf(error)));
    }
  }
  if (values.json && done.length > 0)
    surroundings.print(
      JSON.stringify(positionals.length === 1 ? { findings: done[0].findings } : { files: done }),
    );
  if (done.length === positionals.length) return 0;
  return done.length === 0 ? EXIT_UNUSABLE : EXIT_SOME_FAILED;
}

function tell(name: string, list: readonly FileFinding[], { print }: Surroundings) {
  print(`${name}: ${list.length} findings`);
  for (const { kind, part, bar, reason, mend } of list)
    print(`  ${part || 'without a name'}, bar ${bar}, ${kind}: ${reason}${mend ? '' : ' (no mend)'}`);
}
