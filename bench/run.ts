import { benchBrowser } from './browser';
import { benchAlignment } from './browser/places';
import {
  benchCodec,
  benchCommandLine,
  benchCurves,
  benchEvaluation,
  benchMessage,
  benchReadings,
  type BenchRow,
} from './core';
import { benchExporting } from './exporting/exporting';
import { benchFindings } from './findings/findings';
import { benchFollowing } from './following/following';
import { benchNotation } from './notation/notation';
import { benchSuggestFree } from './suggest/free';
import { benchSuggest } from './suggest/suggest';
import { benchTempo } from './tempo/tempo';
import { benchFuzz, benchKills } from './trust';

/**
 * Prints each row of the table of speeds to reach, beside its peer where it has one. `npm run bench`, after `npm run
 * build`; `npm run bench -- slider` measures in the browser only what has that in its name, `npm run bench -- tempo`
 * scores how beats are found, `npm run bench -- findings` how many planted faults are, `npm run bench -- readings`
 * times what is measured, `npm run bench -- suggest` scores what is suggested, `npm run bench -- notation` what is
 * written down, `npm run bench -- following` how performances are laid beside scores, `npm run bench -- exporting`
 * times what is handed on, `npm run bench -- recording` how exactly is recorded.
 */
const only = process.argv[2];
const inFull = async (): Promise<BenchRow[]> => [
  // First, since the command line cleans a file in a process where nothing ran before.
  ...benchCommandLine(),
  ...benchCodec(),
  ...benchEvaluation(),
  ...benchCurves(),
  ...benchReadings(),
  ...benchMessage(),
  ...benchAlignment(),
  ...benchTempo(),
  ...benchFindings(),
  ...benchSuggest(),
  ...benchSuggestFree(),
  ...benchNotation(),
  ...benchFollowing(),
  ...benchFuzz(),
  ...(await benchExporting()),
  ...(await benchBrowser()),
  ...(await benchKills()),
];
const ALONE: Record<string, () => BenchRow[] | Promise<BenchRow[]>> = {
  tempo: benchTempo,
  findings: benchFindings,
  readings: benchReadings,
  notation: benchNotation,
  following: benchFollowing,
  exporting: benchExporting,
  suggest: () => [...benchSuggest(), ...benchSuggestFree()],
};
const named = async (name: string) => ALONE[name]?.() ?? benchBrowser(name);
for (const row of only === undefined ? await inFull() : await named(only)) {
  console.log(
    `${row.met ? 'met   ' : 'MISSED'} ${row.work.padEnd(62)} ${row.ours.padStart(10)}  ${row.peer.padEnd(22)} reach: ${row.reach}`,
  );
}
