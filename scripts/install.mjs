/** Installs the npm packages of the lockfile when they are not there yet. Uses only Node itself. */
import { spawnSync } from 'node:child_process';
import { existsSync, statSync } from 'node:fs';
import path from 'node:path';
import { fileURLToPath } from 'node:url';

const ROOT = path.resolve(path.dirname(fileURLToPath(import.meta.url)), '..');

export function installPackages() {
  const installed = path.join(ROOT, 'node_modules/.package-lock.json');
  const lock = path.join(ROOT, 'package-lock.json');
  if (existsSync(installed) && statSync(installed).mtimeMs >= statSync(lock).mtimeMs) return;
  console.log('Installing the packages of the lockfile ...');
  // No package of ours needs its install script, and running none is both quicker and safer.
  const { status } = spawnSync('npm', ['ci', '--ignore-scripts', '--no-audit', '--no-fund'], {
    cwd: ROOT,
    stdio: 'inherit',
    shell: process.platform === 'win32',
  });
  if (status !== 0) {
    console.error('The packages could not be installed. Is a package registry within reach?');
    process.exit(status ?? 1);
  }
}
