/**
 * Builds the core as a package for other programs into core/dist/package and packs it into core/dist. Usage:
 * node scripts/packCore.mjs
 */
import { spawnSync } from 'node:child_process';
import { copyFileSync, existsSync, mkdirSync, readFileSync, rmSync, writeFileSync } from 'node:fs';
import path from 'node:path';
import { rolldown } from 'rolldown';
import ts from 'typescript';
import { ROOT } from './bundle.mjs';
import { licenceTexts, shippedPackages } from './shippedPackages.mjs';

const CORE = path.join(ROOT, 'core');
const OUT = path.join(CORE, 'dist/package');
const own = JSON.parse(readFileSync(path.join(CORE, 'package.json'), 'utf8'));

/** The program as one module: what it uses of others is in it, but for Zod, whose schemas its types speak of. */
async function bundle() {
  const built = await rolldown({
    input: path.join(CORE, 'library.ts'),
    platform: 'neutral',
    external: [/^zod(\/|$)/],
    resolve: { mainFields: ['module', 'main'], conditionNames: ['import', 'module', 'default'] },
    logLevel: 'warn',
  });
  await built.write({ file: path.join(OUT, 'index.js'), format: 'esm', codeSplitting: false });
  await built.close();
}

/** Types, with the names of files in their imports, as every way of resolving them understands. */
function types() {
  const { options } = ts.getParsedCommandLineOfConfigFile(
    path.join(CORE, 'tsconfig.json'),
    {},
    {
      ...ts.sys,
      onUnRecoverableConfigFileDiagnostic: fail,
    },
  );
  const program = ts.createProgram([path.join(CORE, 'library.ts')], {
    ...options,
    noEmit: false,
    declaration: true,
    emitDeclarationOnly: true,
    outDir: path.join(OUT, 'types'),
    rootDir: CORE,
  });
  const { diagnostics } = program.emit(undefined, (file, text) => {
    mkdirSync(path.dirname(file), { recursive: true });
    writeFileSync(file, withFileNames(file, text));
  });
  const wrong = [...ts.getPreEmitDiagnostics(program), ...diagnostics];
  if (wrong.length > 0) fail(wrong[0]);
}

const sourceOf = (file) => path.join(CORE, path.relative(path.join(OUT, 'types'), file));

function withFileNames(file, text) {
  const from = path.dirname(sourceOf(file));
  return text.replaceAll(/(from |import\()(['"])(\.[^'"]*)\2/g, (_, before, quote, named) => {
    const isFolder = !existsSync(path.join(from, `${named}.ts`));
    return `${before}${quote}${named}${isFolder ? (named.endsWith('/') ? 'index' : '/index') : ''}.js${quote}`;
  });
}

function fail(diagnostic) {
  throw new Error(ts.flattenDiagnosticMessageText(diagnostic.messageText, '\n'));
}

function papers() {
  const { name, version, license, description, dependencies } = own;
  const written = {
    name,
    version,
    description:
      description ?? 'Clean recorded MIDI: quantize, suggest, merge, find beats; files in, files out.',
    license,
    type: 'module',
    sideEffects: false,
    exports: { '.': { types: './types/library.d.ts', default: './index.js' } },
    types: './types/library.d.ts',
    files: ['index.js', 'types', 'LICENCES.txt'],
    engines: { node: '>=20.19' },
    dependencies: { zod: dependencies.zod },
  };
  writeFileSync(path.join(OUT, 'package.json'), `${JSON.stringify(written, null, 2)}\n`);
  copyFileSync(path.join(ROOT, 'LICENSE'), path.join(OUT, 'LICENSE'));
  copyFileSync(path.join(CORE, 'README.md'), path.join(OUT, 'README.md'));
  const within = shippedPackages(['core']).filter(({ name: each }) => each !== 'zod');
  writeFileSync(path.join(OUT, 'LICENCES.txt'), licenceTexts(within));
}

rmSync(OUT, { recursive: true, force: true });
mkdirSync(OUT, { recursive: true });
await bundle();
types();
papers();
const packed = spawnSync('npm', ['pack', '--silent', '--pack-destination', path.dirname(OUT)], {
  cwd: OUT,
  encoding: 'utf8',
});
if (packed.status !== 0) throw new Error(packed.stderr);
console.log(`Packed: core/dist/${packed.stdout.trim().split('\n').at(-1)}`);
