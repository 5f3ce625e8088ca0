import {
  appendFileSync,
  existsSync,
  mkdirSync,
  readFileSync,
  readdirSync,
  rmSync,
  statSync,
  writeFileSync,
} from 'node:fs';
import { spawn } from 'node:child_process';
import path from 'node:path';
import { createStep, writeMidi } from '@ordle/core';
import { fileOfNotes } from '../core/testing/files';
import { temporaryFolder } from '../core/testing/folder';
import { digestOf } from './cleaning/manifest';
import { main } from './main';
import { VERSION } from './version';

const MANIFEST = 'out/.ordle-done.jsonl';

/** A folder with some files of late notes and a recipe, and the command line in it. */
function setUp(count = 4) {
  const folder = temporaryFolder();
  const file = (name: string) => path.join(folder, name);
  mkdirSync(file('in'));
  const names = Array.from({ length: count }, (_, at) => `in/take-${at}.mid`);
  names.forEach(
    (name, at) =>
    writeFileSync(file(name), writeMidi(fileOfNotes([[10 + at, 300, 60, 90], [490 + at, 800, 64, 70]]))), // prettier-ignore
  );
  const recipe = (strength: number) =>
    writeFileSync(
      file('recipe.json'),
      JSON.stringify({
        ordle: 'recipe',
        version: 1,
        name: 'x',
        steps: [createStep('quantize', { strength })],
      }),
    );
  recipe(100);
  const run = async (args: string[], given = '') => {
    const lines = { out: [] as string[], err: [] as string[] };
    const code = await main(['clean', ...args], folder, {
      print: (line) => lines.out.push(line),
      complain: (line) => lines.err.push(line),
      input: () => given,
    });
    return { code, said: lines.out.join('\n'), complaint: lines.err.join('\n') };
  };
  const clean = (...more: string[]) =>
    run([...names, '--recipe', 'recipe.json', '--out', 'out', '--resume', ...more]);
  const times = () => names.map((name) => statSync(file(`out/${path.basename(name)}`)).ino);
  const entries = () => readFileSync(file(MANIFEST), 'utf8').trim().split('\n');
  return { file, names, recipe, run, clean, times, entries };
}

describe('ordle clean --resume', () => {
  it('says in a manifest what is done, and leaves that out the next time', async () => {
    const { file, names, clean, times, entries } = setUp();
    expect((await clean()).said).toContain('4 of 4 files cleaned');
    expect(entries().map((line) => JSON.parse(line) as unknown)).toEqual(
      names.map((name) => ({
        recipe: digestOf(readFileSync(file('recipe.json'))),
        version: VERSION,
        name: path.basename(name),
        input: digestOf(readFileSync(file(name))),
      })),
    );
    const before = times();
    const again = await clean();
    expect([again.code, again.said]).toEqual([
      0,
      '0 of 4 files cleaned: 0 notes moved, 0 of 0 changed in all, 4 were done before, 0 files failed',
    ]);
    expect(times()).toEqual(before);
    // One that is gone is made again, and no other.
    rmSync(file('out/take-1.mid'));
    expect((await clean()).said).toContain('1 of 4 files cleaned');
    expect(entries()).toHaveLength(5);
    expect(times().filter((each, at) => each !== before[at]).length).toBeLessThanOrEqual(1);
  });

  it('a line cut short by a kill counts as not there, and what follows it is a line of its own', async () => {
    const { file, clean, entries } = setUp();
    await clean();
    const whole = readFileSync(file(MANIFEST), 'utf8');
    writeFileSync(file(MANIFEST), whole.slice(0, -20));
    rmSync(file('out/take-3.mid'));
    expect((await clean()).said).toContain('1 of 4 files cleaned');
    expect(entries()).toHaveLength(5);
    expect((await clean()).said).toContain('4 were done before');
    appendFileSync(file(MANIFEST), 'nonsense\n{"name":7}\n');
    expect((await clean()).said).toContain('4 were done before');
  });

  it('what another recipe or another input made is not taken for done, and not replaced unasked', async () => {
    const { file, names, recipe, clean } = setUp();
    await clean();
    const first = readFileSync(file('out/take-2.mid'));
    writeFileSync(file(names[2]), writeMidi(fileOfNotes([[33, 300, 60, 90]])));
    const refused = await clean();
    expect(refused.code).toBe(1);
    expect(refused.complaint).toContain('was not made of this file by this recipe; give --overwrite');
    expect(readFileSync(file('out/take-2.mid')).equals(first)).toBe(true);
    expect((await clean('--overwrite')).said).toContain('1 of 4 files cleaned');
    recipe(50);
    expect((await clean('--overwrite')).said).toContain('4 of 4 files cleaned');
    // The first recipe's results are not there any more, whatever the manifest says of them.
    recipe(100);
    expect((await clean()).code).toBe(2);
    expect((await clean('--overwrite')).said).toContain('4 of 4 files cleaned');
  });

  it('without it nothing is left beside the results', async () => {
    const { file, names, run } = setUp();
    await run([...names, '--recipe', 'recipe.json', '--out', 'out']);
    expect(readdirSync(file('out'))).toEqual(names.map((name) => path.basename(name)));
  });
});

const hasParallel = existsSync('/usr/bin/parallel');
if (!hasParallel) console.warn('parallel is not installed: the test of several slots did NOT run.');
(hasParallel ? it : it.skip)(
  'many files in two slots that are killed and gone on with come to what one call makes of them',
  async () => {
    const { file, names, run } = setUp(60);
    writeFileSync(file('names'), `${names.join('\n')}\n`);
    const command = `parallel --will-cite --pipe -N 10 -j2 '${process.execPath}' '${path.resolve(__dirname, 'bin/ordle.mjs')}' clean --list - --recipe recipe.json --out out --resume < names`;
    const start = () =>
      spawn('sh', ['-c', command], {
        cwd: folderOf(file),
        detached: true,
        stdio: 'ignore',
        env: { ...process.env, INIT_CWD: folderOf(file) },
      });
    const first = start();
    const killed = new Promise((resolve) => first.on('close', resolve));
    const results = () =>
      existsSync(file('out')) ? readdirSync(file('out')).filter((name) => name.endsWith('.mid')) : [];
    while (results().length === 0) await new Promise((resolve) => setTimeout(resolve, 5));
    process.kill(-(first.pid ?? 0), 'SIGKILL');
    await killed;
    const code = await new Promise((resolve) => start().on('close', resolve));
    expect(code).toBe(0);
    await run([...names, '--recipe', 'recipe.json', '--out', 'one']);
    expect(results()).toEqual(readdirSync(file('one')));
    for (const name of results())
      expect(readFileSync(file(`out/${name}`)).equals(readFileSync(file(`one/${name}`)))).toBe(true);
    expect(readdirSync(file('out')).filter((name) => name.endsWith('.part'))).toEqual([]);
  },
  60_000,
);

const folderOf = (file: (name: string) => string): string => path.dirname(file('in'));

describe('ordle clean', () => {
  it('takes names from standard input, one a line', async () => {
    const { file, names, run } = setUp();
    const args = ['--list', '-', '--recipe', 'recipe.json', '--out', 'out'];
    expect((await run(args, `${names[0]}\r\n\n${names[2]}\n`)).said).toContain('2 of 2 files cleaned');
    expect(readdirSync(file('out'))).toEqual(['take-0.mid', 'take-2.mid']);
    expect((await run(args, '')).complaint).toContain('Name the files');
    expect(
      (await run(['--list', 'names.txt', '--recipe', 'recipe.json', '--out', 'out'])).complaint,
    ).toContain('--list takes "-"');
  });

  it('cleans each file by its own suggestion, as suggest does', async () => {
    const { file, run } = setUp(0);
    const late = Array.from({ length: 64 }, (_, at): [number, number, number, number] => [
      at * 240 + ((at * 37) % 41),
      at * 240 + 200,
      60 + (at % 5),
      80,
    ]);
    writeFileSync(file('in/late.mid'), writeMidi(fileOfNotes(late)));
    writeFileSync(
      file('in/exact.mid'),
      writeMidi(fileOfNotes(late.map(([, , pitch], at) => [at * 240, at * 240 + 200, pitch, 80]))),
    );
    const { code, said } = await run([
      'in/late.mid',
      'in/exact.mid',
      '--suggest',
      '--out',
      'out',
      '--resume',
    ]);
    expect(code).toBe(0);
    expect(said).toContain('2 of 2 files cleaned: each by its own suggestion');
    expect(said).toMatch(/late\.mid: [1-9]\d* steps? suggested for 1 of 1 part,/);
    await main(['suggest', 'in/late.mid', '--apply', 'applied.mid'], path.dirname(file('in')), {
      print: () => undefined,
    });
    expect(readFileSync(file('out/late.mid')).equals(readFileSync(file('applied.mid')))).toBe(true);
    expect(existsSync(file(MANIFEST))).toBe(true);
    // Both: the recipe comes after what is suggested, as if its steps stood after those on the line.
    await run(['in/late.mid', '--suggest', '--recipe', 'recipe.json', '--out', 'both']);
    await main(['suggest', 'in/late.mid', '--recipe', 'suggested.json'], path.dirname(file('in')), {
      print: () => undefined,
    });
    const [suggested, own] = ['suggested.json', 'recipe.json'].map(
      (name) => JSON.parse(readFileSync(file(name), 'utf8')) as { steps: unknown[] },
    );
    writeFileSync(file('line.json'), JSON.stringify({ ...own, steps: [...suggested.steps, ...own.steps] }));
    await run(['in/late.mid', '--recipe', 'line.json', '--out', 'line']);
    expect(readFileSync(file('both/late.mid')).equals(readFileSync(file('line/late.mid')))).toBe(true);
    expect(readFileSync(file('both/late.mid')).equals(readFileSync(file('out/late.mid')))).toBe(false);
  });
});

test('the version is that of the package', () => {
  const text = readFileSync(path.resolve(__dirname, '../package.json'), 'utf8');
  expect(JSON.parse(text)).toMatchObject({ version: VERSION });
});
