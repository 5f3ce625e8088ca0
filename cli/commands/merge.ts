import { existsSync } from 'node:fs';
import path from 'node:path';
import {
  OrdleError,
  mergeFiles,
  noteValueSchema,
  readMusic,
  sentenceOf,
  writeMidi,
  type Doubles,
  type MergeOptions,
  type Merged,
  type MidiFile,
} from '@ordle/core';
import { numberOf, readArguments } from '../arguments';
import { writeWhole } from '../cleaning/partialFiles';
import { EXIT_SOME_FAILED, EXIT_UNUSABLE, readInput, withName, type Surroundings } from '../surroundings';

const USAGE =
  'Name the files, how they are merged and the file to write: ordle merge FILE FILE... --mode layer|join|tightest --out FILE';

/**
 * `ordle merge FILE... --mode layer|join|tightest --out FILE`: several files as one. What was decided on the way is
 * told on standard error. Returns 0; 1 when some files could not be read (the others are merged); 2 when nothing
 * could be used.
 */
export function merge(args: readonly string[], surroundings: Surroundings): number {
  const { values, positionals } = readArguments(args, {
    mode: { type: 'string' },
    doubles: { type: 'string', default: 'both' },
    within: { type: 'string', default: '30' },
    grid: { type: 'string', default: '1/16' },
    penalty: { type: 'string', default: '2' },
    missing: { type: 'string', default: '0' },
    out: { type: 'string' },
    overwrite: { type: 'boolean', default: false },
    json: { type: 'boolean', default: false },
  });
  const { mode, out } = values;
  if (positionals.length === 0 || mode === undefined || out === undefined)
    throw new OrdleError('usage', USAGE);
  const options = optionsOf(mode, values);
  const target = path.resolve(surroundings.directory, out);
  if (existsSync(target) && !values.overwrite)
    throw new OrdleError('out-file', `${out} is already there; give --overwrite to replace it.`);
  const files: { name: string; file: MidiFile; place: number }[] = [];
  positionals.forEach((name, place) => {
    try {
      files.push({ name, file: readMusic(readInput(name, surroundings)).file, place });
    } catch (error) {
      surroundings.complain(withName(name, sentenceOf(error)));
    }
  });
  if (files.length === 0) return EXIT_UNUSABLE;
  const merged = mergeFiles(files, options);
  writeWhole(target, writeMidi(merged.file));
  for (const sentence of merged.told) surroundings.complain(sentence);
  const places = files.map(({ place }) => place);
  if (values.json) surroundings.print(JSON.stringify(reportOf(merged, mode, places)));
  else tell(merged, files, out, surroundings);
  return files.length === positionals.length ? 0 : EXIT_SOME_FAILED;
}

function optionsOf(mode: string, values: Record<string, string | boolean | undefined>): MergeOptions {
  if (mode === 'join') return { mode };
  if (mode === 'layer') {
    const keep = String(values.doubles);
    if (!isKeep(keep))
      throw new OrdleError('usage', `--doubles must be both, louder, longer or first, not "${keep}".`);
    return { mode, doubles: { keep, withinMs: numberOf('within', values.within, 0, 1000) } };
  }
  if (mode === 'tightest') {
    const grid = noteValueSchema.safeParse(values.grid);
    if (!grid.success)
      throw new OrdleError(
        'usage',
        `--grid must be a note value such as 1/16 or 1/8T, not "${String(values.grid)}".`,
      );
    return {
      mode,
      grid: grid.data,
      penaltyMs: numberOf('penalty', values.penalty, 0, 1e6),
      missingMs: numberOf('missing', values.missing, 0, 1e6),
    };
  }
  throw new OrdleError('usage', `--mode must be layer, join or tightest, not "${mode}".`);
}

const isKeep = (keep: string): keep is Doubles['keep'] =>
  ['both', 'louder', 'longer', 'first'].includes(keep);

/** `file` counts the inputs as they were named, from 0. */
function reportOf({ chosen, begins, dropped }: Merged, mode: string, places: readonly number[]) {
  if (chosen)
    return {
      ...chosen,
      bars: chosen.bars.map(({ file, ...bar }) => ({ bar: bar.bar, file: places[file], costMs: bar.costMs })),
    };
  if (mode === 'join') return { files: begins.map((begin, index) => ({ file: places[index], ...begin })) };
  return { dropped };
}

function tell(
  { chosen, begins, dropped }: Merged,
  files: readonly { name: string }[],
  out: string,
  { print }: Surroundings,
) {
  if (chosen) {
    for (const { bar, file, costMs } of chosen.bars)
      print(`bar ${bar}: ${files[file].name}, ${costMs.toFixed(1)} ms`);
    print(`${chosen.switches} changes of file, ${chosen.totalMs.toFixed(1)} ms in all`);
  } else begins.forEach(({ bar }, index) => print(`${files[index].name}: from bar ${bar}`));
  if (dropped > 0) print(`${dropped} doubles were left out`);
  print(`written to ${out}`);
}
