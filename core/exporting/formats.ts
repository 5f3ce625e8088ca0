import { z } from 'zod';
import { OrdleError } from '../errors';
import type { FormatKind, PlannedFile, Portion } from './formatKind';
import { csv } from './formats/csv';
import { midi } from './formats/midi';
import { musicXml } from './formats/musicXml';
import { grooves, recipes } from './formats/recipesAndGrooves';
import { report } from './formats/report';
import { sessionFile } from './formats/sessionFile';
import { wav } from './formats/wav';

/** Every format there is, in the order in which they are offered. */
export const FORMATS: readonly FormatKind[] = [
  midi,
  musicXml,
  csv,
  wav,
  report,
  sessionFile,
  recipes,
  grooves,
];
export const FORMAT_IDS = FORMATS.map(({ id }) => id);

/** A format that is wanted, with what was chosen of it; what is not said is as it usually is. */
export interface FormatChoice {
  format: string;
  options: unknown;
}

/** The format with an id. Throws `format` where there is none. */
export function formatOf(id: string): FormatKind {
  const found = FORMATS.find((each) => each.id === id);
  if (!found) throw new OrdleError('format', `"${id}" is no format; there are: ${FORMAT_IDS.join(', ')}.`);
  return found;
}

/** The options of a format, checked, with the usual ones for what is not said. Throws `format` with what is wrong. */
export function optionsOf(kind: FormatKind, options: unknown): unknown {
  const read = kind.options.safeParse(options ?? {});
  if (read.success) return read.data;
  const [issue] = read.error.issues;
  throw new OrdleError(
    'format',
    `${kind.title}: ${issue.path.join('.') || 'its options'}: ${issue.message}.`,
  );
}

/** The files that a format makes of a portion. */
export const filesOf = (portion: Portion, { format, options }: FormatChoice): PlannedFile[] => {
  const kind = formatOf(format);
  return kind.files(portion, optionsOf(kind, options));
};

export const formatChoiceSchema = z.strictObject({ format: z.string(), options: z.unknown() });
