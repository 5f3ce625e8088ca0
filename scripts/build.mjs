/** Builds everything: the app into app/dist, the server and the command line as one file each. */
import { spawnSync } from 'node:child_process';
import { writeFileSync } from 'node:fs';
import path from 'node:path';
import { ROOT, bundleCommandLine, bundleForNode } from './bundle.mjs';
import { licenceTexts, shippedPackages } from './shippedPackages.mjs';

const vite = spawnSync(
  process.execPath,
  [
    path.join(ROOT, 'node_modules/vite/bin/vite.js'),
    'build',
    '--config',
    'app/vite.config.ts',
    '--logLevel',
    'warn',
  ],
  { cwd: ROOT, stdio: 'inherit' },
);
if (vite.status !== 0) process.exit(vite.status ?? 1);
await bundleForNode('server/main.ts', 'server/dist/server.js', {
  external: ['express', 'helmet', 'compression'],
});
await bundleCommandLine();
writeFileSync(
  path.join(ROOT, 'cli/dist/licences.txt'),
  licenceTexts(shippedPackages(['core', 'sound', 'cli'])),
);
console.log('Built: app/dist, server/dist, cli/dist.');
