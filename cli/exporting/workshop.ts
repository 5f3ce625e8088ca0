import { closeSync, mkdtempSync, openSync, readFileSync, readSync, rmSync, writeSync } from 'node:fs';
import { tmpdir } from 'node:os';
import path from 'node:path';
import { OrdleError, type Instruments, type Scratch } from '@ordle/core';
import { instrumentsOf } from '@ordle/sound';
import { reasonOf } from '../fileErrors';

/** Instruments that read their sounds when they are first played. Throws OrdleError `bank-missing`. */
export function instrumentsIn(file: string): Instruments {
  let loaded: Instruments | null = null;
  return (...asked) => {
    loaded ??= instrumentsOf(bankIn(file));
    return loaded(...asked);
  };
}

function bankIn(file: string): ArrayBuffer {
  try {
    const { buffer, byteOffset, byteLength } = readFileSync(file);
    return buffer.slice(byteOffset, byteOffset + byteLength) as ArrayBuffer;
  } catch (error) {
    throw new OrdleError(
      'bank-missing',
      `The instrument sounds (${file}) cannot be read: ${reasonOf(error)}.`,
    );
  }
}

/** Room in a file of the system's folder for such, gone from it as soon as it is open. */
export function scratchOnDisk(): Scratch {
  const folder = mkdtempSync(path.join(tmpdir(), 'ordle-'));
  const file = openSync(path.join(folder, 'samples'), 'w+');
  // Where an open file cannot be taken away it goes when it is dropped.
  const forget = () => rmSync(folder, { recursive: true, force: true, maxRetries: 1 });
  try {
    forget();
  } catch {
    // Later, then.
  }
  const lengths: number[] = [];
  let isOpen = true;
  return {
    append(bytes) {
      try {
        writeSync(file, bytes);
      } catch (error) {
        throw new OrdleError(
          'write',
          `There is no room for the sound in ${tmpdir()} while it is worked out: ${reasonOf(error)}.`,
        );
      }
      lengths.push(bytes.length);
    },
    *chunks() {
      let place = 0;
      for (const length of lengths) {
        const bytes = new Uint8Array(length);
        readSync(file, bytes, 0, length, place);
        place += length;
        yield bytes;
      }
    },
    drop() {
      if (!isOpen) return;
      isOpen = false;
      closeSync(file);
      forget();
    },
  };
}
