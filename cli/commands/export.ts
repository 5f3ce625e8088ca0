import { existsSync } from 'node:fs';
import path from 'node:path';
import {
  OrdleError,
  listOf,
  mapItems,
  orderedOf,
  partsAsWritten,
  sentenceOf,
  writeMusicXml,
  writeMxl,
  type NotationSettings,
  type Session,
} from '@ordle/core';
import { readArguments } from '../arguments';
import { writeWhole } from '../cleaning/partialFiles';
import { partsInUse, sessionOfBytes } from '../cleaning/sessionSource';
import { readInputWhole, withName, type Surroundings } from '../surroundings';
import { readRecipe } from './clean';

const FORMATS = ['musicxml', 'mxl'];
const FINEST = [4, 8, 16, 32, 64] as const;

/**
 * `ordle export FILE --to musicxml|mxl --out FILE ...`: the parts of a MIDI or session file, as they are cleaned, as
 * notation. Returns 0; what cannot be used is thrown.
 */
export function exportFile(args: readonly string[], surroundings: Surroundings): number {
  const { values, positionals } = readArguments(args, {
    to: { type: 'string' },
    out: { type: 'string' },
    parts: { type: 'string' },
    bars: { type: 'string' },
    recipe: { type: 'string' },
    as: { type: 'string', default: 'cleaned' },
    staves: { type: 'string' },
    finest: { type: 'string' },
    overwrite: { type: 'boolean', default: false },
  });
  const [name, ...others] = positionals;
  if (name === undefined || others.length > 0 || values.out === undefined)
    throw new OrdleError('usage', 'Name one file: ordle export FILE --to musicxml --out FILE');
  if (values.to === undefined || !FORMATS.includes(values.to))
    throw new OrdleError('usage', `--to takes one of: ${FORMATS.join(', ')}.`);
  if (values.as !== 'cleaned' && values.as !== 'played')
    throw new OrdleError('usage', `--as takes played or cleaned, not "${values.as}".`);
  const target = path.resolve(surroundings.directory, values.out);
  if (existsSync(target) && !values.overwrite)
    throw new OrdleError('out-file', `${values.out} is already there; give --overwrite to replace it.`);
  try {
    const settings = settingsOf(values.staves, values.finest);
    const opened = sessionOfBytes(readInputWhole(name, surroundings), path.parse(name).name);
    const recipe = values.recipe === undefined ? null : readRecipe(values.recipe, surroundings);
    const session: Session = {
      ...opened.session,
      parts: mapItems(opened.session.parts, (part) => ({
        ...part,
        notation: { ...part.notation, ...settings },
        ...(recipe && { steps: orderedOf(recipe.steps.map((step, index) => ({ id: `${index}`, step }))) }),
      })),
    };
    const choice = { parts: partsNamed(session, values.parts), version: values.as } as const;
    const written = partsAsWritten(session, choice, opened.evaluator, opened.takeOf).map(
      (part) => part.written,
    );
    if (written.length === 0)
      throw new OrdleError('nothing-to-export', 'There are no notes in these parts to be written down.');
    const xml = writeMusicXml(written, { title: session.name, bars: barsOf(values.bars) });
    writeWhole(target, values.to === 'mxl' ? writeMxl(xml) : new TextEncoder().encode(xml));
    const concerns = written.reduce((sum, part) => sum + part.concerns.length, 0);
    surroundings.print(
      `${values.out}: ${written.length} ${written.length === 1 ? 'part' : 'parts'}, ${concerns} notes written otherwise than they sound`,
    );
    return 0;
  } catch (error) {
    throw new OrdleError(
      error instanceof OrdleError ? error.code : 'export',
      withName(name, sentenceOf(error)),
    );
  }
}

function settingsOf(staves: string | undefined, finest: string | undefined): NotationSettings {
  if (staves !== undefined && staves !== '1' && staves !== '2')
    throw new OrdleError('usage', `--staves takes 1 or 2, not "${staves}".`);
  const shortest = FINEST.find((value) => finest === `1/${value}`);
  if (finest !== undefined && !shortest)
    throw new OrdleError(
      'usage',
      `--finest takes one of: ${FINEST.map((value) => `1/${value}`).join(', ')}.`,
    );
  return {
    ...(staves !== undefined && { staves: staves === '1' ? 1 : 2 }),
    ...(shortest !== undefined && { finest: shortest }),
  };
}

/** The parts named, with commas between; those in use where none is. */
function partsNamed(session: Session, names: string | undefined): string[] {
  if (names === undefined) return partsInUse(session);
  return names.split(',').map((name) => {
    const part = listOf(session.parts).find((each) => each.name === name.trim());
    if (part) return part.id;
    const there = listOf(session.parts).map((each) => each.name);
    throw new OrdleError('usage', `There is no part "${name.trim()}"; there are: ${there.join(', ')}.`);
  });
}

/** Bars from the first to the last, both counted from 1 and both written. */
function barsOf(text: string | undefined): [number, number] | undefined {
  if (text === undefined) return undefined;
  const [, first, last] = /^(\d+)-(\d+)$/.exec(text) ?? [];
  const [from, to] = [Number(first), Number(last)];
  if (!(from >= 1 && to >= from))
    throw new OrdleError('usage', `--bars takes the first and the last, as 5-12, not "${text}".`);
  return [from, to + 1];
}
