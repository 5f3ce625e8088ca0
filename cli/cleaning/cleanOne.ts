import { readFileSync, renameSync, rmSync, statSync, writeFileSync } from 'node:fs';
import { OrdleError, cleanFile, readMidi, sentenceOf, writeMidi, type Step } from '@ordle/core';

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

/** Reads, cleans and writes one file. A file that cannot be used is a result, not an error; nothing is written for it. */
export function cleanOne({ name, source, target }: CleaningJob, steps: readonly Step[]): CleaningResult {
  try {
    const { file, repairs } = readMidi(readSource(name, source));
    const cleaned = cleanFile(file, steps);
    writeWhole(target, writeMidi(cleaned.file));
    const { notes, changed, moved } = cleaned;
    return { ok: true, notes, changed, moved, repairs: repairs.length };
  } catch (error) {
    if (!(error instanceof OrdleError)) throw error;
    return { ok: false, sentence: sentenceOf(error) };
  }
}

/** The bytes of a file. Throws OrdleError `no-file` with a plain sentence when it cannot be read. */
export function readSource(name: string, full: string): Uint8Array {
  try {
    if (statSync(full).isDirectory()) throw new OrdleError('no-file', `${name} is a folder, not a file.`);
    return readFileSync(full);
  } catch (error) {
    if (error instanceof OrdleError) throw error;
    const code = typeof error === 'object' && error !== null && 'code' in error ? error.code : undefined;
    const reason =
      code === 'ENOENT' ? 'there is no such file' : code === 'EACCES' ? 'it may not be read' : String(error);
    throw new OrdleError('no-file', `${name}: ${reason}.`);
  }
}

let written = 0;

/** Writes beside the target and renames, so that an interrupted call never leaves half a file under the name. */
function writeWhole(target: string, bytes: Uint8Array) {
  const partial = `${target}.${process.pid}-${written++}.part`;
  try {
    writeFileSync(partial, bytes);
    renameSync(partial, target);
  } catch (error) {
    rmSync(partial, { force: true });
    throw new OrdleError(
      'write',
      `${target} cannot be written: ${error instanceof Error ? error.message : String(error)}`,
    );
  }
}
