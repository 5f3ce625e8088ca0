/** Runs every check there is and ends with "N passed, N failed". Installs what it needs first. */
import { spawn, spawnSync } from 'node:child_process';
import { existsSync, mkdirSync, readFileSync, rmSync } from 'node:fs';
import path from 'node:path';
import { fileURLToPath } from 'node:url';
import { installPackages } from './install.mjs';

installPackages();
// Only now are the packages there that this one imports.
const { fetchMusicOfOthers, installSystemTools } = await import('./systemTools.mjs');
installSystemTools();
fetchMusicOfOthers();

const ROOT = path.resolve(path.dirname(fileURLToPath(import.meta.url)), '..');
const RESULTS = path.join(ROOT, 'test-results');
rmSync(RESULTS, { recursive: true, force: true });
mkdirSync(RESULTS, { recursive: true });

let passed = 0;
let failed = 0;

function bin(name) {
  return path.join(ROOT, 'node_modules/.bin', name);
}

/** Runs a command with a time limit; true when it succeeded. */
function run(title, command, args, minutes = 5) {
  console.log(`\n== ${title}`);
  const begun = Date.now();
  const { status, error } = spawnSync(command, args, {
    cwd: ROOT,
    stdio: ['ignore', 'inherit', 'inherit'],
    timeout: minutes * 60000,
    killSignal: 'SIGKILL',
  });
  if (error) console.error(`${title}: ${error.message}`);
  console.log(
    `== ${title}: ${status === 0 ? 'ok' : 'FAILED'} (${((Date.now() - begun) / 1000).toFixed(1)} s)`,
  );
  return status === 0;
}

/** A check that passes or fails as a whole; what it says is shown when it ends. */
async function check([title, command, args]) {
  const begun = Date.now();
  const child = spawn(command, args, { cwd: ROOT, stdio: ['ignore', 'pipe', 'pipe'], timeout: 5 * 60000 });
  const said = [];
  for (const stream of [child.stdout, child.stderr]) stream.on('data', (chunk) => said.push(chunk));
  const status = await new Promise((resolve) => child.on('error', resolve).on('close', resolve));
  process.stdout.write(Buffer.concat(said));
  console.log(
    `== ${title}: ${status === 0 ? 'ok' : 'FAILED'} (${((Date.now() - begun) / 1000).toFixed(1)} s)`,
  );
  if (status === 0) passed++;
  else failed++;
}

// These read the sources and write nothing, so that two at a time can run: the longest first.
const checks = [
  ['lint', bin('eslint'), ['.', '--max-warnings', '0']],
  ['format', bin('prettier'), ['--check', '--log-level', 'warn', '.']],
  ['type check', process.execPath, ['scripts/typecheck.mjs']],
  ['words', process.execPath, ['scripts/write-words.mjs', '--check']],
  ['public face of the core', process.execPath, ['scripts/apiReport.mjs', '--check']],
];
const inTurns = async () => {
  for (let next = checks.shift(); next; next = checks.shift()) await check(next);
};
await Promise.all([inTurns(), inTurns()]);

const jestFile = path.join(RESULTS, 'unit.json');
const jestOk = run('unit tests', bin('jest'), ['--json', `--outputFile=${jestFile}`, '--silent=false'], 15);
if (existsSync(jestFile)) {
  const result = JSON.parse(readFileSync(jestFile, 'utf8'));
  passed += result.numPassedTests;
  failed += result.numFailedTests + result.numRuntimeErrorTestSuites;
  if (result.numPendingTests > 0) console.warn(`!!! ${result.numPendingTests} unit tests did not run.`);
}
if (!jestOk && failed === 0) failed++;

const built = run('build', process.execPath, ['scripts/build.mjs']);
if (built) passed++;
else failed++;
const before = failed;
const e2eOk =
  built && run('end-to-end tests', bin('playwright'), ['test', '--config', 'e2e/playwright.config.ts'], 20);
const e2eFile = path.join(RESULTS, 'e2e.json');
if (existsSync(e2eFile)) {
  const { stats } = JSON.parse(readFileSync(e2eFile, 'utf8'));
  passed += stats.expected + stats.flaky;
  failed += stats.unexpected;
  if (stats.flaky > 0) console.warn(`!!! ${stats.flaky} end-to-end tests passed only at the second try.`);
}
if (!e2eOk && failed === before) failed++;

console.log(`\n${passed} passed, ${failed} failed`);
process.exit(failed === 0 ? 0 : 1);
