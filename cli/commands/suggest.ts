import { existsSync } from 'node:fs';
import path from 'node:path';
import {
  OrdleError,
  kindOf,
  readMusic,
  sentenceOf,
  suggestFile,
  writeMidi,
  type FileSuggestion,
} from '@ordle/core';
import { readArguments } from '../arguments';
import { writeWhole } from '../cleaning/partialFiles';
import { EXIT_SOME_FAILED, EXIT_UNUSABLE, readInput, withName, type Surroundings } from '../surroundings';

/**
 * `ordle suggest FILE... [--json] [--apply OUT.mid] [--recipe OUT.json]`: what would clean each file up and why;
 * with `--apply` one file with all of it done. Returns 0; 1 when some files of several failed; 2 when none could be
 * used.
 */
export function suggest(args: readonly string[], surroundings: Surroundings): number {
  const { values, positionals } = readArguments(args, {
    apply: { type: 'string' },
    recipe: { type: 'string' },
    overwrite: { type: 'boolean', default: false },
    json: { type: 'boolean', default: false },
  });
  if (positionals.length === 0)
    throw new OrdleError(
      'usage',
      'Name the files: ordle suggest FILE... [--json], or ordle suggest FILE --apply OUT.mid',
    );
  if ((values.apply !== undefined || values.recipe !== undefined) && positionals.length > 1)
    throw new OrdleError('usage', '--apply and --recipe go with one file; name one at a time.');
  const targetOf = (name: string | undefined) => {
    if (name === undefined) return null;
    const target = path.resolve(surroundings.directory, name);
    if (existsSync(target) && !values.overwrite)
      throw new OrdleError('out-file', `${name} is already there; give --overwrite to replace it.`);
    return target;
  };
  const [target, recipe] = [targetOf(values.apply), targetOf(values.recipe)];
  const done: { file: string; report: object }[] = [];
  for (const name of positionals) {
    try {
      const { file, repairs } = readMusic(readInput(name, surroundings));
      const suggestion = suggestFile(file);
      if (target !== null) writeWhole(target, writeMidi(suggestion.applied()));
      if (recipe !== null)
        writeWhole(
          recipe,
          new TextEncoder().encode(`${JSON.stringify(suggestion.recipe(path.parse(name).name), null, 2)}\n`),
        );
      const { recorded, confidence, bpm, parts, findings } = suggestion;
      const told = repairs.map(({ message }) => message);
      done.push({ file: name, report: { recorded, confidence, bpm, parts, repairs: told, findings } });
      if (!values.json) tell(name, suggestion, surroundings);
    } catch (error) {
      surroundings.complain(withName(name, sentenceOf(error)));
    }
  }
  if (values.json && done.length > 0) {
    const told = done.map(({ report }) => report);
    surroundings.print(
      JSON.stringify(
        positionals.length === 1 ? told[0] : { files: done.map(({ file, report }) => ({ file, ...report })) },
      ),
    );
  }
  if (done.length === positionals.length) return 0;
  return done.length === 0 ? EXIT_UNUSABLE : EXIT_SOME_FAILED;
}

function tell(
  name: string,
  { recorded, confidence, bpm, parts, findings }: FileSuggestion,
  { print }: Surroundings,
) {
  const sure = confidence > 0.75 ? 'certain' : confidence > 0.5 ? 'fairly certain' : 'not certain';
  print(
    `${name}: recorded ${recorded} (${sure})${bpm === null ? '' : `, ${bpm.toFixed(1)} bpm`}, ${findings} findings`,
  );
  for (const { name: part, channel, steps, reasons, before, after } of parts) {
    const figures =
      steps.length > 0 ? `, ${before.offMs.toFixed(1)} to ${after.offMs.toFixed(1)} ms off` : '';
    print(`  ${part || 'without a name'}, channel ${channel}${figures}`);
    reasons.forEach((reason, at) => {
      const step = steps.at(at);
      const does = step ? `${kindOf(step.kind).title} ${kindOf(step.kind).describe(step)}: ` : '';
      print(`    ${does}${reason}`);
    });
  }
}
