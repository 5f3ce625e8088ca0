import { readFileSync, statSync } from 'node:fs';
import { OrdleError, cleanFile, readMusic, sentenceOf, writeMidi, type Step } from '@ordle/core';
import { reasonOf } from '../fileErrors';
import { midiBytesOf } from './sessionSource';
import { writeWhole } from './partialFiles';

/** One file to clean: its name as the person wrote it, where it lies, and where the result goes. */
export interface CleaningJob {
  name: string;
  source: string;
  target: string;
}

/** What came of a job. `sentence` says why nothing was written. */
export type CleaningResult =
  | { ok: true; notes: number; changed: number; moved: number; repairs: number }
  | { ok: false; sentence: string };

/**
 * Reads, cleans and writes one file, by `write`. Whatever goes wrong with it is a result, not an error; nothing is
 * written for it then.
 */
export function cleanOne(
  { name, source, target }: CleaningJob,
  steps: readonly Step[],
  write: (target: string, bytes: Uint8Array) => void = writeWhole,
): CleaningResult {
  try {
    const { file, repairs } = readMusic(readSource(name, source));
    const cleaned = cleanFile(file, steps);
    write(target, writeMidi(cleaned.file));
    const { notes, changed, moved } = cleaned;
    return { ok: true, notes, changed, moved, repairs: repairs.length };
  } catch (error) {
    // What an engine throws when room runs out.
    const sentence = error instanceof RangeError ? 'It needs more room than there is.' : sentenceOf(error);
    return { ok: false, sentence };
  }
}

/** The bytes of a MIDI file; a session file is read as what it would be exported as. Fails as `readWhole` does. */
export const readSource = (name: string, full: string): Uint8Array => midiBytesOf(readWhole(name, full));

/**
 * The bytes of a file. Throws OrdleError `no-file` with a plain sentence when it cannot be read; pipes and devices are
 * not waited for.
 */
export function readWhole(name: string, full: string): Uint8Array {
  try {
    const stats = statSync(full);
    if (stats.isDirectory()) throw new OrdleError('no-file', `${name} is a folder, not a file.`);
    if (!stats.isFile()) {
      throw new OrdleError(
        'no-file',
        `${name} is a pipe or a device, not a file; save its content as a file first.`,
      );
    }
    return readFileSync(full);
  } catch (error) {
    if (error instanceof OrdleError) throw error;
    throw new OrdleError('no-file', `${name}: ${reasonOf(error)}.`);
  }
}
