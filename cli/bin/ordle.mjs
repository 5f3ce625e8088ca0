#!/usr/bin/env node
/**
 * Starts the bundled command line; on a fresh checkout, or when a source is newer than the bundle, bundles it first.
 * Files named on the command line are relative to where the person stands, which npm keeps in INIT_CWD.
 */
import { existsSync, readdirSync, statSync } from 'node:fs';
import path from 'node:path';
import { fileURLToPath, pathToFileURL } from 'node:url';

const ROOT = path.resolve(path.dirname(fileURLToPath(import.meta.url)), '../..');
const BUNDLE = path.join(ROOT, 'cli/dist/ordle.mjs');
const CLEAN_WORKER = path.join(ROOT, 'cli/dist/cleanWorker.mjs');
const SOUND_BANK = path.join(ROOT, 'app/public/sounds/general-midi.sf2');

function newest(folder) {
  let latest = 0;
  for (const entry of readdirSync(folder, { withFileTypes: true })) {
    if (entry.name === 'dist' || entry.name === 'node_modules') continue;
    const full = path.join(folder, entry.name);
    if (entry.isDirectory()) latest = Math.max(latest, newest(full));
    else if (full.endsWith('.ts')) latest = Math.max(latest, statSync(full).mtimeMs);
  }
  return latest;
}

function isStale() {
  if (!existsSync(BUNDLE) || !existsSync(CLEAN_WORKER)) return true;
  const built = statSync(BUNDLE).mtimeMs;
  return ['core', 'sound', 'cli'].some((folder) => newest(path.join(ROOT, folder)) > built);
}

if (isStale()) {
  try {
    const { bundleCommandLine } = await import('../../scripts/bundle.mjs');
    await bundleCommandLine();
  } catch (error) {
    process.stderr.write(`The command line could not be built (run "npm ci" first): ${error.message}\n`);
    process.exit(2);
  }
}
// A reader that stops early (head, a pager) is no fault, and the work goes on: only the words have nowhere to go.
// Words that cannot be written for another reason (a full disk) are one.
for (const stream of [process.stdout, process.stderr]) {
  stream.on('error', (error) => {
    if (error.code !== 'EPIPE' && error.code !== 'ERR_STREAM_DESTROYED') process.exitCode ||= 1;
  });
}
const { main } = await import(pathToFileURL(BUNDLE).href);
const code = await main(process.argv.slice(2), process.env.INIT_CWD ?? process.cwd(), {
  cleanWorker: CLEAN_WORKER,
  soundBank: SOUND_BANK,
});
process.exitCode ||= code;
