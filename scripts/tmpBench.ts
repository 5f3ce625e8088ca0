import { benchOnly } from '../bench/browser';
for (const row of await benchOnly(process.argv[2] ?? '')) console.log(row.work, row.ours);
