import { existsSync, readFileSync, rmSync, statSync } from 'node:fs';
import path from 'node:path';
import { OrdleError, cleanMusic, sentenceOf, type Cleaning } from '@ordle/core';
import { reasonOf } from '../fileErrors';
import { midiBytesOf } from './sessionSource';
import { appendDone, digestOf } from './manifest';
import { writeWhole } from './partialFiles';

/** One file to clean: its name as the person wrote it, where it lies, and where the result goes. */
export interface CleaningJob {
  name: string;
  source: string;
  target: string;
  /** Where a manifest is kept: its file, what is said in it, and the digest of the input that it knows, if any. */
  manifest?: { file: string; recipe: string; version: string; known: string | null; overwrite: boolean };
}

/**
 * What came of a job. `isDone`: a manifest says that it was done before; `suggested`: how many steps were suggested,
 * on how many of its parts. `sentence` says why nothing was written.
 */
export type CleaningResult =
  | {
      ok: true;
      notes: number;
      changed: number;
      moved: number;
      repairs: number;
      isDone?: boolean;
      suggested?: { steps: number; on: number; parts: number };
    }
  | { ok: false; sentence: string };

type Write = (target: string, bytes: Uint8Array, beforeIsThere?: () => void) => void;

/**
 * Reads, cleans and writes one file, by `write`. Whatever goes wrong with it is a result, not an error; nothing is
 * written for it then.
 */
export function cleanOne(job: CleaningJob, cleaning: Cleaning, write: Write = writeWhole): CleaningResult {
  const { name, source, target, manifest } = job;
  try {
    const given = readWhole(name, source);
    const input = manifest ? digestOf(given) : '';
    if (manifest && existsSync(target)) {
      if (manifest.known === input)
        return { ok: true, notes: 0, changed: 0, moved: 0, repairs: 0, isDone: true };
      if (!manifest.overwrite)
        throw new OrdleError(
          'out-file',
          `${target} is already there, and was not made of this file by this recipe; give --overwrite to replace it.`,
        );
    }
    const { bytes, suggested, ...counts } = cleanMusic(midiBytesOf(given), cleaning);
    write(target, bytes, () => {
      if (!manifest) return;
      // What was there goes, it is said, the new one comes: a kill between any two is told by its absence.
      rmSync(target, { force: true });
      appendDone(manifest.file, { ...manifestEntry(manifest), name: path.basename(target), input });
    });
    return { ok: true, ...counts, ...(suggested && { suggested }) };
  } catch (error) {
    // What an engine throws when room runs out.
    const sentence = error instanceof RangeError ? 'It needs more room than there is.' : sentenceOf(error);
    return { ok: false, sentence };
  }
}

const manifestEntry = ({ recipe, version }: NonNullable<CleaningJob['manifest']>) => ({ recipe, version });

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
