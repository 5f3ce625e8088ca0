import { benchCodec, benchCommandLine, benchEvaluation } from './core';
const rows = [...benchCodec(), ...benchEvaluation(), ...benchCommandLine()];
for (const row of rows)
  console.log(
    `${row.met ? 'met   ' : 'MISSED'} ${row.work.padEnd(48)} ${row.ours.padStart(9)}  ${row.peer.padEnd(24)} reach: ${row.reach}`,
  );
