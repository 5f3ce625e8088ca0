import { benchBrowser } from './browser';
import {
  benchCodec,
  benchCommandLine,
  benchCurves,
  benchEvaluation,
  benchMessage,
  type BenchRow,
} from './core';
import { benchFuzz, benchKills } from './trust';

/** Prints each row of the table of speeds to reach, beside its peer where it has one. `npm run bench`, after `npm run build`. */
const rows: BenchRow[] = [
  // First, since the command line cleans a file in a process where nothing ran before.
  ...benchCommandLine(),
  ...benchCodec(),
  ...benchEvaluation(),
  ...benchCurves(),
  ...benchMessage(),
  ...benchFuzz(),
  ...(await benchBrowser()),
  ...(await benchKills()),
];
for (const row of rows) {
  console.log(
    `${row.met ? 'met   ' : 'MISSED'} ${row.work.padEnd(62)} ${row.ours.padStart(10)}  ${row.peer.padEnd(22)} reach: ${row.reach}`,
  );
}
