import { fileURLToPath } from 'node:url';
import path from 'node:path';
import { rolldown } from 'rolldown';

/** The project's folder. */
export const ROOT = path.resolve(path.dirname(fileURLToPath(import.meta.url)), '..');

/**
 * Bundles a TypeScript entry for Node into one file. Our own code goes in; packages named in `external` stay imports
 * (they are found in node_modules at run time).
 */
export async function bundleForNode(entry, output, { external = [], minify = false } = {}) {
  const bundle = await rolldown({
    input: path.resolve(ROOT, entry),
    platform: 'node',
    external,
    resolve: {
      alias: {
        '@ordle/core': path.join(ROOT, 'core'),
        '@ordle/sound': path.join(ROOT, 'sound'),
        '@': path.join(ROOT, 'app'),
      },
    },
    logLevel: 'warn',
  });
  await bundle.write({ file: path.resolve(ROOT, output), format: 'esm', minify, codeSplitting: false });
  await bundle.close();
}

/** The command line and the thread it cleans in. The main file comes last: its age tells whether both are fresh. */
export async function bundleCommandLine() {
  await bundleForNode('cli/cleaning/cleanWorker.ts', 'cli/dist/cleanWorker.mjs', { minify: true });
  await bundleForNode('cli/main.ts', 'cli/dist/ordle.mjs', { minify: true });
}
