import { benchBrowser } from './browser';
import { benchAlignment } from './browser/places';
import {
  benchCodec,
  benchCommandLine,
  benchCurves,
  benchEvaluation,
  benchMessage,
  type BenchRow,
} from './core';
import { benchFuzz, benchKills } from './trust';

/**
 * Prints each row of the table of speeds to reach, beside its peer where it has one. `npm run bench`, after `npm run build`; `npm run bench -- slider`
 * measures in the browser only what has that in its name.
 */
const only = process.argv[2];
const inFull = async (): Promise<BenchRow[]> => [
  // First, since the command line cleans a file in a process where nothing ran before.
  ...benchCommandLine(),
  ...benchCodec(),
  ...benchEvaluation(),
  ...benchCurves(),
  ...benchMessage(),
  ...benchAlignment(),
  ...benchFuzz(),
  ...(await benchBrowser()),
  ...(await benchKills()),
];
for (const row of only === undefined ? await inFull() : await benchBrowser(only)) {
  console.log(
    `${row.met ? 'met   ' : 'MISSED'} ${row.work.padEnd(62)} ${row.ours.padStart(10)}  ${row.peer.padEnd(22)} reach: ${row.reach}`,
  );
}
