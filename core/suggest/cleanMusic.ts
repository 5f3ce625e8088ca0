import { cleanFile } from '../evaluate';
import { readMusic } from '../formats';
import { writeMidi } from '../midi';
import { kindOf, type Step } from '../steps';
import { suggestFile } from './suggestFile';

/**
 * What is done to each of many files: what is suggested for it, some steps on every part, or one after the other.
 *
 * @public
 */
export interface Cleaning {
  suggested: boolean;
  steps: readonly Step[];
}

/**
 * What came of cleaning one file. Notes that changed, and those of them that start elsewhere, by the steps alone.
 *
 * @public
 */
export interface CleanedMusic {
  bytes: Uint8Array;
  notes: number;
  changed: number;
  moved: number;
  /** How much was put right on reading. */
  repairs: number;
  /** How many steps were suggested, on how many of its parts; null where nothing was asked for. */
  suggested: { steps: number; on: number; parts: number } | null;
}

/**
 * Reads the bytes of a MIDI file, cleans it, and writes it in the format it came in. The same bytes wherever it runs.
 * Throws OrdleError as reading and writing do.
 *
 * @public
 */
export function cleanMusic(given: Uint8Array, { suggested, steps }: Cleaning): CleanedMusic {
  const { file, repairs } = readMusic(given);
  if (!suggested) {
    const { file: cleaned, ...counts } = cleanFile(file, steps);
    return { bytes: writeMidi(cleaned), ...counts, repairs: repairs.length, suggested: null };
  }
  const suggestion = suggestFile(file);
  const { parts } = suggestion;
  return {
    bytes: writeMidi(suggestion.applied(steps)),
    notes: parts.reduce((sum, { notes }) => sum + notes, 0),
    changed: 0,
    moved: 0,
    repairs: repairs.length,
    suggested: {
      steps: parts.reduce((sum, part) => sum + part.steps.length, 0),
      on: parts.filter((part) => part.steps.length > 0).length,
      parts: parts.length,
    },
  };
}

/** What a person should know before files are cleaned by some steps: those that need what no file has. */
export function idleSteps(steps: readonly Step[]): string[] {
  return steps.flatMap(({ on, kind }) =>
    on && kindOf(kind).followsScore
      ? `The step “${kindOf(kind).title}” goes by a score that lies beside a part; files have none, so it changes nothing.`
      : [],
  );
}

/** What a file that is cleaned is called afterwards: what is no MIDI file becomes one. */
export const cleanedName = (name: string): string => name.replace(/\.(ordle|musicxml|mxl|xml)$/i, '.mid');
