import {
  closeSync,
  openSync,
  readdirSync,
  renameSync,
  rmSync,
  statSync,
  writeFileSync,
  writeSync,
} from 'node:fs';
import path from 'node:path';
import { OrdleError } from '@ordle/core';
import { reasonOf } from '../fileErrors';

/** What a file is called while it is being written: the process that writes it, and a number of its own. */
const PARTIAL = /\.(\d+)-\d+\.part$/;
/** A partial file this old was left by a process whose number another has taken since. */
const OLD_MS = 24 * 60 * 60 * 1000;

let written = 0;

/**
 * Writes beside the target and renames, so that an interrupted call never leaves half a file under the name;
 * `beforeIsThere` is called between the two. Throws OrdleError `write` with the reason in words.
 */
export function writeWhole(target: string, bytes: Uint8Array, beforeIsThere?: () => void): void {
  const partial = `${target}.${process.pid}-${written++}.part`;
  try {
    writeFileSync(partial, bytes);
    beforeIsThere?.();
    renameSync(partial, target);
  } catch (error) {
    rmSync(partial, { force: true });
    throw new OrdleError('write', `${target} cannot be written: ${reasonOf(error)}.`);
  }
}

/**
 * The same with bytes that come piece by piece; gives how many. `watch` takes care of signals while there is something
 * half-written, and returns the way to stop.
 */
export async function writeStreamed(
  target: string,
  chunks: AsyncIterable<Uint8Array>,
  watch: () => () => void = () => () => {},
): Promise<number> {
  const partial = `${target}.${process.pid}-${written++}.part`;
  let length = 0;
  let file: number | null = null;
  let stopWatching = () => {};
  const open = () => {
    stopWatching = watch();
    return openSync(partial, 'w');
  };
  try {
    for await (const bytes of chunks) {
      // Only now: before, a signal ends the call at once, whatever that is at.
      file ??= open();
      writeSync(file, bytes);
      length += bytes.length;
    }
    file ??= open();
    closeSync(file);
    file = null;
    renameSync(partial, target);
    return length;
  } catch (error) {
    if (file !== null) closeSync(file);
    rmSync(partial, { force: true });
    if (error instanceof OrdleError) throw error;
    throw new OrdleError('write', `${target} cannot be written: ${reasonOf(error)}.`);
  } finally {
    stopWatching();
  }
}

/**
 * Removes what calls that were killed have left half-written in a folder. Those of a call that is still running stay.
 */
export function sweepPartialFiles(folder: string): void {
  forEachPartial(folder, (file, pid) => {
    if (!isRunning(pid) || Date.now() - statSync(file).mtimeMs > OLD_MS) rmSync(file, { force: true });
  });
}

/** Removes what this process has half-written in a folder. */
export function dropOwnPartialFiles(folder: string): void {
  forEachPartial(folder, (file, pid) => {
    if (pid === process.pid) rmSync(file, { force: true });
  });
}

/** A file that cannot be looked at or removed is left alone: it does no harm to what is written. */
function forEachPartial(folder: string, visit: (file: string, pid: number) => void) {
  try {
    for (const name of readdirSync(folder)) {
      const pid = PARTIAL.exec(name)?.[1];
      if (pid === undefined) continue;
      try {
        visit(path.join(folder, name), Number(pid));
      } catch {
        continue;
      }
    }
  } catch {
    return;
  }
}

function isRunning(pid: number): boolean {
  try {
    process.kill(pid, 0);
    return true;
  } catch (error) {
    // Not allowed to signal it, so it is there.
    return (error as NodeJS.ErrnoException).code === 'EPERM';
  }
}
