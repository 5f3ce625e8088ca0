import { mkdirSync, writeFileSync } from 'node:fs';
import path from 'node:path';
import { writeMidi } from '@ordle/core';
import { largeFile } from '../../bench/corpus';
import { fileOfNotes } from '../../core/testing/files';

/** Writes the made-up files the end-to-end tests bring in to .cache/e2e. */
const folder = path.resolve('.cache/e2e');
mkdirSync(folder, { recursive: true });
const save = (name: string, bytes: Uint8Array) => writeFileSync(path.join(folder, name), bytes);
save('two-notes.mid', writeMidi(fileOfNotes([[0, 1920, 60, 127], [7000, 7680, 72, 127]]))); // prettier-ignore
save('large.mid', writeMidi(largeFile(100_000)));
save('silent.mid', writeMidi(fileOfNotes([], 96, [[0, 0xb0, 7, 100]])));
save(
  'four-notes.mid',
  writeMidi(
    fileOfNotes([
      [0, 400, 60, 90],
      [480, 880, 64, 80],
      [960, 1360, 67, 70],
      [1440, 1840, 72, 60],
    ]),
  ),
);
