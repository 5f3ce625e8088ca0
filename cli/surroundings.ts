import path from 'node:path';
import { readSource, readWhole } from './cleaning/cleanOne';

/** Where a command runs and where it speaks. */
export interface Surroundings {
  directory: string;
  print(line: string): void;
  complain(line: string): void;
  /** All of standard input. */
  input(): string;
  /** The built script of the cleaning thread; null where everything runs in one thread. */
  cleanWorker: string | null;
  /** The file of the instruments that sound in audio files (SF2). */
  soundBank: string;
}

/** Some files of several failed; the others are written. */
export const EXIT_SOME_FAILED = 1;
/** The call, or every file of it, cannot be used. */
export const EXIT_UNUSABLE = 2;

/** Reads a file named on the command line. Throws OrdleError `no-file` with a plain sentence when that fails. */
export function readInput(name: string, { directory }: Surroundings): Uint8Array {
  return readSource(name, path.resolve(directory, name));
}

/** The same of a file as it is: a session file is not read as what it would be exported as. */
export function readInputWhole(name: string, { directory }: Surroundings): Uint8Array {
  return readWhole(name, path.resolve(directory, name));
}

/** The sentence with the file's name before it, unless it already begins with it. */
export function withName(name: string, sentence: string): string {
  return sentence.startsWith(name) ? sentence : `${name}: ${sentence}`;
}
