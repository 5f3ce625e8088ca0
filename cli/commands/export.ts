import { existsSync, mkdirSync, statSync } from 'node:fs';
import path from 'node:path';
import {
  OrdleError,
  exportSource,
  listOf,
  mapItems,
  orderedOf,
  partsInUse,
  planExport,
  sentenceOf,
  storedPart,
  writeExport,
  type ExportChoice,
  type ExportPlan,
  type ExportSource,
  type FormatChoice,
  type Recipe,
  type Session,
} from '@ordle/core';
import { readArguments } from '../arguments';
import { sweepPartialFiles, writeStreamed } from '../cleaning/partialFiles';
import { sessionOfBytes, type OpenedSession } from '../cleaning/sessionSource';
import { FORMAT_ARGUMENTS, formatsGiven } from '../exporting/formatArguments';
import { instrumentsIn, scratchOnDisk } from '../exporting/workshop';
import { reasonOf } from '../fileErrors';
import {
  EXIT_SOME_FAILED,
  EXIT_UNUSABLE,
  readInputWhole,
  withName,
  type Surroundings,
} from '../surroundings';
import { dropPartialFilesOnSignal, readRecipe } from './clean';

/** What was written of an input, for `--json`. */
interface Exported {
  file: string;
  written: { file: string; bytes: number; holds?: string[] }[];
}

/** What is wanted of every input. */
interface Wanted {
  formats(cameAs: number): FormatChoice[];
  parts: string | undefined;
  choice: Pick<ExportChoice, 'version' | 'extent' | 'names'>;
  recipe: Recipe | null;
  overwrite: boolean;
}

/**
 * `ordle export FILE... --to FORMAT,... --out FILE|DIR`: the parts of MIDI, score or session files, cleaned or as they
 * were played, as other programs take them. Several files go into a zip, or into a folder where one is named. Returns
 * 0; 1 when some of several inputs failed; what cannot be used is thrown.
 */
export async function exportFiles(args: readonly string[], surroundings: Surroundings): Promise<number> {
  const { values, positionals } = readArguments(args, {
    to: { type: 'string' },
    out: { type: 'string' },
    parts: { type: 'string' },
    bars: { type: 'string' },
    each: { type: 'string' },
    names: { type: 'string' },
    recipe: { type: 'string' },
    as: { type: 'string', default: 'cleaned' },
    json: { type: 'boolean', default: false },
    overwrite: { type: 'boolean', default: false },
    ...FORMAT_ARGUMENTS,
  });
  if (positionals.length === 0 || values.out === undefined)
    throw new OrdleError('usage', 'Name a file: ordle export FILE --to mid|musicxml|csv|wav|... --out FILE');
  const formats = formatsGiven(values.to, values);
  if (values.as !== 'cleaned' && values.as !== 'played')
    throw new OrdleError('usage', `--as takes played or cleaned, not "${values.as}".`);
  const wanted: Wanted = {
    formats,
    parts: values.parts,
    choice: { version: values.as, extent: extentGiven(values), names: values.names ?? null },
    recipe: values.recipe === undefined ? null : readRecipe(values.recipe, surroundings),
    overwrite: values.overwrite,
  };
  const isApart = Boolean(values.stems) || Boolean(values['one-file-a-part']) || values.each !== undefined;
  const into = {
    out: values.out,
    isFolder:
      positionals.length > 1 ||
      isFolderNamed(values.out, surroundings) ||
      // Several files of one format go to a folder; several formats into a zip, whatever it is called.
      (isApart && !values.to?.includes(',') && path.extname(values.out) === ''),
    isApart,
  };
  const exported: Exported[] = [];
  for (const name of positionals) {
    try {
      exported.push(await exportOne(name, into, wanted, surroundings));
    } catch (error) {
      const sentence = withName(name, sentenceOf(error));
      if (positionals.length === 1)
        throw new OrdleError(error instanceof OrdleError ? error.code : 'export', sentence);
      surroundings.complain(sentence);
    }
  }
  if (values.json && exported.length > 0)
    surroundings.print(JSON.stringify(positionals.length === 1 ? exported[0] : { files: exported }));
  else
    for (const { written } of exported)
      for (const { file, bytes, holds } of written)
        surroundings.print(`${file}: ${bytes} bytes${holds ? `, ${holds.join(', ')}` : ''}`);
  if (exported.length === positionals.length) return 0;
  return exported.length === 0 ? EXIT_UNUSABLE : EXIT_SOME_FAILED;
}

function isFolderNamed(out: string, { directory }: Surroundings): boolean {
  const full = path.resolve(directory, out);
  return /[\\/]$/.test(out) || (existsSync(full) && statSync(full).isDirectory());
}

async function exportOne(
  name: string,
  { out, isFolder, isApart }: { out: string; isFolder: boolean; isApart: boolean },
  wanted: Wanted,
  surroundings: Surroundings,
): Promise<Exported> {
  const opened = sessionOfBytes(readInputWhole(name, surroundings), path.parse(name).name, true);
  const source = sourceOf(opened, wanted.recipe);
  const target = path.resolve(surroundings.directory, out);
  const plan = planExport(
    source,
    {
      ...wanted.choice,
      parts: partsNamed(source.session, wanted.parts),
      formats: wanted.formats(source.session.sourceFormat),
    },
    !isFolder && /\.zip$/i.test(out),
  );
  const { files } = plan;
  if (plan.isZip && files.every(({ extension }) => path.extname(out) === `.${extension}`))
    throw new OrdleError(
      'usage',
      `These are ${files.length} files: name a zip (--out ${out.replace(/\.\w+$/, '.zip')}) or a folder (--out ${out.replace(/\.\w+$/, '/')}).`,
    );
  const folder = isFolder ? target : path.dirname(target);
  // One file of each input is called by that; several by their own names.
  const named = files.length === 1 && !isApart ? [`${path.parse(name).name}.${files[0].extension}`] : null;
  const targets = isFolder
    ? (named ?? files.map((file) => file.name)).map((each) => path.join(target, each))
    : [target];
  for (const each of targets)
    if (existsSync(each) && !wanted.overwrite)
      throw new OrdleError(
        'out-file',
        `${path.relative(surroundings.directory, each)} is already there; give --overwrite to replace it.`,
      );
  try {
    mkdirSync(folder, { recursive: true });
  } catch (error) {
    throw new OrdleError('out-folder', `The folder ${folder} cannot be made: ${reasonOf(error)}.`);
  }
  sweepPartialFiles(folder);
  return { file: name, written: await writeAll(plan, targets, isFolder, surroundings) };
}

/** Each file by itself into a folder, or the one file or zip. */
async function writeAll(
  plan: ExportPlan,
  targets: readonly string[],
  isFolder: boolean,
  surroundings: Surroundings,
): Promise<Exported['written']> {
  const workshop = {
    instruments: instrumentsIn(surroundings.soundBank),
    scratch: scratchOnDisk,
    pause: createPause(),
    tell: (sentence: string) => void surroundings.complain(sentence),
  };
  const tell = progressTeller(surroundings);
  const watch = () => dropPartialFilesOnSignal(path.dirname(targets[0]));
  const shown = (target: string) => path.relative(surroundings.directory, target) || target;
  if (!isFolder) {
    const bytes = await writeStreamed(targets[0], writeExport(plan, workshop, tell), watch);
    const holds = plan.isZip ? { holds: plan.files.map((file) => file.name) } : {};
    return [{ file: shown(targets[0]), bytes, ...holds }];
  }
  const written: Exported['written'] = [];
  for (const [at, file] of plan.files.entries()) {
    const alone = { files: [file], name: file.name, isZip: false };
    written.push({
      file: shown(targets[at]),
      bytes: await writeStreamed(targets[at], writeExport(alone, workshop, tell), watch),
    });
  }
  return written;
}

/** Ms of work between two looks at whether a signal has come. */
const TURN_MS = 50;

function createPause(): () => Promise<void> {
  let last = Date.now();
  return async () => {
    if (Date.now() - last < TURN_MS) return;
    await new Promise((resolve) => setImmediate(resolve));
    last = Date.now();
  };
}

/** Tells how far long work is, at most so often, and only once it has run this long. */
const PROGRESS_MS = 3000;

function progressTeller({ complain }: Surroundings): (share: number) => void {
  let last = Date.now();
  return (share) => {
    if (Date.now() - last < PROGRESS_MS || share === 1) return;
    last = Date.now();
    complain(`${Math.floor(100 * share)} %`);
  };
}

function sourceOf(opened: OpenedSession, recipe: Recipe | null): ExportSource {
  const { evaluator, takeOf, tables, history } = opened;
  const session: Session = recipe
    ? {
        ...opened.session,
        parts: mapItems(opened.session.parts, (part) => ({
          ...part,
          steps: orderedOf(recipe.steps.map((step, index) => ({ id: `${index}`, step }))),
        })),
      }
    : opened.session;
  const takeOrNull = (key: string) => {
    try {
      return storedPart(takeOf(key));
    } catch {
      return null;
    }
  };
  return exportSource(
    { session, evaluator, takeOf },
    { take: takeOrNull, table: (key) => tables.find((each) => each.key === key) ?? null },
    history,
  );
}

/** The parts named, with commas between; those in use where none is. */
function partsNamed(session: Session, names: string | undefined): string[] {
  if (names === undefined) return partsInUse(session);
  const whole = listOf(session.parts).find((each) => each.name === names);
  if (whole) return [whole.id];
  return names.split(',').map((name) => {
    const part = listOf(session.parts).find((each) => each.name === name.trim());
    if (part) return part.id;
    const there = listOf(session.parts).map((each) => each.name);
    throw new OrdleError('usage', `There is no part "${name.trim()}"; there are: ${there.join(', ')}.`);
  });
}

/** Bars from the first to the last, both counted from 1 and both written; or each section or block. */
function extentGiven({ bars, each }: { bars?: string; each?: string }): ExportChoice['extent'] {
  if (bars !== undefined && each !== undefined)
    throw new OrdleError('usage', '--bars and --each do not go together; give one of them.');
  if (each !== undefined) {
    if (each !== 'section' && each !== 'block')
      throw new OrdleError('usage', `--each takes section or block, not "${each}".`);
    return { of: each === 'section' ? 'sections' : 'blocks' };
  }
  if (bars === undefined) return { of: 'all' };
  const [, first, last] = /^(\d+)-(\d+)$/.exec(bars) ?? [];
  const [from, to] = [Number(first), Number(last)];
  if (!(from >= 1 && to >= from))
    throw new OrdleError('usage', `--bars takes the first and the last, as 5-12, not "${bars}".`);
  return { of: 'bars', bars: [from, to + 1] };
}
