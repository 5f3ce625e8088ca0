import { execFileSync } from 'node:child_process';
import path from 'node:path';

/** Makes the files the tests bring in; they are built with the core, so they are written by a bundled script. */
export default function globalSetup() {
  const cwd = path.resolve(import.meta.dirname, '../..');
  execFileSync(process.execPath, ['scripts/run-typescript.mjs', 'e2e/support/writeFiles.ts'], {
    cwd,
    stdio: 'inherit',
  });
}
