import { OrdleError, type FormatChoice } from '@ordle/core';
import { numberOf } from '../arguments';

/** Options of single formats, as `parseArgs` has them. */
export const FORMAT_ARGUMENTS = {
  format: { type: 'string' },
  division: { type: 'string' },
  'one-file-a-part': { type: 'boolean' },
  'no-programs': { type: 'boolean' },
  'no-names': { type: 'boolean' },
  overlaps: { type: 'string' },
  staves: { type: 'string' },
  finest: { type: 'string' },
  controllers: { type: 'boolean' },
  tempo: { type: 'boolean' },
  rate: { type: 'string' },
  bits: { type: 'string' },
  level: { type: 'string' },
  tail: { type: 'string' },
  stems: { type: 'boolean' },
  history: { type: 'boolean' },
  grid: { type: 'string' },
  beats: { type: 'string' },
} as const;

type Given = { [K in keyof typeof FORMAT_ARGUMENTS]?: string | boolean };

/** Formats by their names on the command line, with the arguments each takes. */
const NAMES: Record<string, readonly (keyof Given)[]> = {
  mid: ['format', 'division', 'one-file-a-part', 'no-programs', 'no-names', 'overlaps'],
  musicxml: ['staves', 'finest'],
  mxl: ['staves', 'finest'],
  csv: ['controllers', 'tempo'],
  wav: ['rate', 'bits', 'level', 'tail', 'stems'],
  report: [],
  ordle: ['history'],
  recipe: [],
  groove: ['grid', 'beats'],
};

/**
 * The formats that are asked for, with their options; `cameAs` is the format of the file the music came in. Throws
 * OrdleError `usage` for what is no format or no value, and for what belongs to a format that is not asked for.
 */
export function formatsGiven(to: string | undefined, given: Given): (cameAs: number) => FormatChoice[] {
  const names = (to ?? '').split(',').map((name) => name.trim());
  const known = Object.keys(NAMES);
  if (to === undefined || names.some((name) => !known.includes(name)))
    throw new OrdleError('usage', `--to takes one or more, with commas between, of: ${known.join(', ')}.`);
  for (const name of Object.keys(FORMAT_ARGUMENTS) as (keyof Given)[]) {
    if (given[name] === undefined) continue;
    const takers = known.filter((format) => NAMES[format].includes(name));
    if (!takers.some((format) => names.includes(format)))
      throw new OrdleError('usage', `--${name} goes with --to ${takers.join(' or ')}.`);
  }
  const options = readOptions(given);
  return (cameAs) => [...new Set(names)].map((name) => options(name, cameAs));
}

function readOptions(given: Given): (name: string, cameAs: number) => FormatChoice {
  const oneOf = <T extends string>(name: keyof Given, values: readonly T[]): T | undefined => {
    const value = given[name];
    const found = values.find((each) => each === value);
    if (value !== undefined && found === undefined)
      throw new OrdleError('usage', `--${name} takes ${values.join(' or ')}, not "${String(value)}".`);
    return found;
  };
  const said = <T>(key: string, value: T | undefined) => (value === undefined ? {} : { [key]: value });
  const number = (value: string | undefined) => (value === undefined ? undefined : Number(value));
  const format = oneOf('format', ['0', '1']);
  const division = given.division === undefined ? undefined : numberOf('division', given.division, 1, 0x7fff);
  if (division !== undefined && !Number.isInteger(division))
    throw new OrdleError(
      'usage',
      `--division takes a whole number of ticks, not "${String(given.division)}".`,
    );
  const overlaps = oneOf('overlaps', ['keep', 'cut']);
  const staves = number(oneOf('staves', ['1', '2']));
  const finest = number(oneOf('finest', ['1/4', '1/8', '1/16', '1/32', '1/64'])?.slice(2));
  const rate = number(oneOf('rate', ['44100', '48000', '96000']));
  const bits = number(oneOf('bits', ['16', '24']));
  const level = oneOf('level', ['peak', 'heard']);
  const tail = oneOf('tail', ['ring', 'bar']);
  const beats = given.beats === undefined ? undefined : numberOf('beats', given.beats, 1, 64);
  const tables = [...(given.controllers ? ['controllers'] : []), ...(given.tempo ? ['tempo'] : [])];
  return (name, cameAs) => {
    switch (name) {
      case 'mid': {
        // A file of that format already is written as it came.
        const layout =
          format === undefined || Number(format) === cameAs ? 'came' : format === '0' ? 'one' : 'parts';
        return {
          format: 'mid',
          options: {
            layout,
            ...said('division', division),
            ...said('overlaps', overlaps),
            apart: given['one-file-a-part'] === true,
            programs: given['no-programs'] !== true,
            names: given['no-names'] !== true,
          },
        };
      }
      case 'musicxml':
      case 'mxl':
        return {
          format: 'musicxml',
          options: { compressed: name === 'mxl', ...said('staves', staves), ...said('finest', finest) },
        };
      case 'csv':
        return { format: 'csv', options: tables.length > 0 ? { tables } : {} };
      case 'wav':
        return {
          format: 'wav',
          options: {
            ...said('rate', rate),
            ...said('bits', bits),
            ...said('level', level),
            ...said('tail', tail),
            files: given.stems === true ? 'parts' : 'mix',
          },
        };
      case 'ordle':
        return { format: 'ordle', options: { history: given.history === true } };
      case 'groove':
        return { format: 'groove', options: { ...said('grid', given.grid), ...said('beats', beats) } };
      default:
        return { format: name, options: {} };
    }
  };
}
