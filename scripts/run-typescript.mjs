/**
 * Runs a TypeScript file of this project in Node: bundles it into .cache and starts it. Usage: run-typescript.mjs
 * FILE ARGS...
 */
import { spawnSync } from 'node:child_process';
import path from 'node:path';
import { ROOT, bundleForNode } from './bundle.mjs';

const [file, ...args] = process.argv.slice(2);
const output = path.join(ROOT, '.cache', 'run', `${path.basename(file, '.ts')}.mjs`);
await bundleForNode(file, output, { external: [/^(?!@ordle\/|@\/|\.|\/)/] });
const { status } = spawnSync(process.execPath, ['--enable-source-maps', output, ...args], {
  stdio: 'inherit',
  cwd: ROOT,
});
process.exit(status ?? 1);
