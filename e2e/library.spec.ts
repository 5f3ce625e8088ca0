import { execFileSync, spawnSync } from 'node:child_process';
import { mkdtempSync, readFileSync, rmSync, writeFileSync } from 'node:fs';
import { tmpdir } from 'node:os';
import path from 'node:path';
import { pathToFileURL } from 'node:url';
import { expect, test, type Page } from '@playwright/test';
import { rolldown } from 'rolldown';
import type * as library from '../core/library';
import { demoPath, ROOT } from './support/app';

/** The examples of the package's README, as they stand there. */
const EXAMPLES = [
  ...readFileSync(path.join(ROOT, 'core/README.md'), 'utf8').matchAll(/```ts\n([\s\S]*?)```/g),
].map(([, code]) => ({ code, name: /export function (\w+)/.exec(code)?.[1] ?? '' }));
const FILES = ['tide-cello.mid', 'ferry-marimba-take-2.mid', 'ferry-tin-whistle.mid'];

/**
 * What an example gives as text, to be compared whole: bytes each, figures to ten places, for engines differ in the
 * last bit of a logarithm. It runs in the page too, so it stands alone.
 */
const plain = (value: unknown): string =>
  JSON.stringify(value, (_, each: unknown) =>
    ArrayBuffer.isView(each)
      ? Array.from(each as unknown as ArrayLike<number>)
      : typeof each === 'number' && !Number.isInteger(each)
        ? Number(each.toPrecision(10))
        : each,
  );

// The package is made once, for all of them.
test.describe.configure({ mode: 'serial' });

let folder = '';

/** An empty project with nothing but the package, as somebody else would begin one. */
test.beforeAll(() => {
  test.setTimeout(300000);
  const said = execFileSync(process.execPath, ['scripts/packCore.mjs'], { cwd: ROOT, encoding: 'utf8' });
  const tarball = path.join(ROOT, /Packed: (\S+)/.exec(said)?.[1] ?? '');
  folder = mkdtempSync(path.join(tmpdir(), 'ordle-library-'));
  writeFileSync(path.join(folder, 'package.json'), '{"private":true,"type":"module"}');
  execFileSync('npm', ['install', '--no-audit', '--no-fund', '--prefer-offline', tarball], {
    cwd: folder,
    stdio: 'pipe',
  });
  EXAMPLES.forEach(({ code, name }) => writeFileSync(path.join(folder, `${name}.ts`), code));
  writeFileSync(
    path.join(folder, 'all.ts'),
    EXAMPLES.map(({ name }) => `export { ${name} } from './${name}.js';`).join('\n'),
  );
});
test.afterAll(() => rmSync(folder, { recursive: true, force: true }));

async function bundled(platform: 'node' | 'browser'): Promise<string> {
  const file = path.join(folder, `all.${platform}.mjs`);
  const bundle = await rolldown({
    input: path.join(folder, 'all.ts'),
    platform,
    resolve: { extensionAlias: { '.js': ['.ts', '.js'] } },
    logLevel: 'silent',
  });
  await bundle.write({ file, format: 'esm' });
  await bundle.close();
  return file;
}

test('the package holds what it says: no private flag, one dependency, six examples', () => {
  const { dependencies, license, ...rest } = JSON.parse(
    readFileSync(path.join(folder, 'node_modules/@ordle/core/package.json'), 'utf8'),
  ) as { dependencies: object; license: string };
  expect(Object.keys(dependencies)).toEqual(['zod']);
  expect(license).toBe('MIT');
  expect(rest).not.toHaveProperty('private');
  expect(EXAMPLES).toHaveLength(6);
});

for (const resolution of ['nodenext', 'bundler'])
  test(`its types hold under ${resolution}`, () => {
    const options = {
      module: resolution === 'nodenext' ? 'nodenext' : 'esnext',
      moduleResolution: resolution,
      target: 'es2023',
      lib: ['es2023', 'dom'],
      strict: true,
      noEmit: true,
      types: [],
    };
    const file = path.join(folder, `tsconfig.${resolution}.json`);
    writeFileSync(file, JSON.stringify({ compilerOptions: options, include: ['*.ts'] }));
    const checked = spawnSync(
      process.execPath,
      [path.join(ROOT, 'node_modules/typescript/bin/tsc'), '-p', file],
      {
        encoding: 'utf8',
      },
    );
    expect(checked.stdout).toBe('');
    expect(checked.status).toBe(0);
  });

test('its examples give the same in Node and in a browser, to the byte', async ({ page }) => {
  type Example = (bytes: Uint8Array) => unknown;
  const inNode = (await import(pathToFileURL(await bundled('node')).href)) as Record<string, Example>;
  await page.goto('/health');
  const code = readFileSync(await bundled('browser'), 'utf8');
  const inBrowser = (name: string, bytes: Uint8Array) => run(page, code, name, bytes);
  for (const file of FILES)
    for (const { name } of EXAMPLES) {
      const bytes = new Uint8Array(readFileSync(demoPath(file)));
      const given = plain(inNode[name](bytes));
      expect(given.length).toBeGreaterThan(10);
      expect({ name, same: (await inBrowser(name, bytes)) === given }).toEqual({ name, same: true });
    }
});

/** Runs one example in the page, from a module of the page's own address, as its policy wants it. */
async function run(page: Page, code: string, name: string, bytes: Uint8Array): Promise<string> {
  const body = `${code}\nexport const exampleAsText = ${plain.toString()};`;
  await page.route('**/example.mjs', (route) => route.fulfill({ contentType: 'text/javascript', body }));
  return page.evaluate(
    async ({ which, given }) => {
      const address = '/example.mjs';
      const module = (await import(address)) as Record<string, (value: unknown) => unknown>;
      return module.exampleAsText(module[which](Uint8Array.from(given))) as string;
    },
    { which: name, given: [...bytes] },
  );
}

test('what is wrong with settings is told as an OrdleError, of a kind and of a setting', async () => {
  const core = (await import(
    pathToFileURL(path.join(folder, 'node_modules/@ordle/core/index.js')).href
  )) as typeof library;
  const told = (make: () => unknown) => {
    try {
      make();
    } catch (error) {
      return error instanceof core.OrdleError ? { code: error.code, sentence: error.message } : error;
    }
    return null;
  };
  expect(told(() => core.createStep('quantize', { strength: 300 }))).toEqual({
    code: 'step',
    sentence: expect.stringContaining('Quantize cannot be made: strength:'),
  });
  expect(told(() => core.createStep('quantise' as 'quantize'))).toMatchObject({ code: 'step-kind' });
  expect(told(() => core.readMidi(new Uint8Array(3)))).toMatchObject({ code: expect.any(String) });
});
