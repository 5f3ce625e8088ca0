/**
 * Type checks every part of the project, with the compiler that takes seconds; the linter still needs the one before
 * it. Usage: typecheck.mjs [PROJECT...]
 */
import { spawnSync } from 'node:child_process';
import path from 'node:path';
import { fileURLToPath } from 'node:url';

const root = path.resolve(path.dirname(fileURLToPath(import.meta.url)), '..');
const compiler = path.join(root, 'node_modules/typescript7/bin/tsc');
const projects = process.argv.length > 2 ? process.argv.slice(2) : ['core', 'sound', 'app', '.'];

for (const project of projects) {
  const { status } = spawnSync(process.execPath, [compiler, '-p', project], { cwd: root, stdio: 'inherit' });
  if (status !== 0) process.exit(status ?? 1);
}
