import { readFileSync, statSync } from 'node:fs';
import path from 'node:path';
import { OrdleError } from '@ordle/core';

/** Where a command runs and where it speaks. */
export interface Surroundings {
  directory: string;
  print(line: string): void;
  complain(line: string): void;
}

export const EXIT_UNUSABLE = 2;

/** Reads a file named on the command line. Throws OrdleError `no-file` with a plain sentence when that fails. */
export function readInput(name: string, { directory }: Surroundings): Uint8Array {
  const full = path.resolve(directory, name);
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
