import { execFileSync, spawn, spawnSync } from 'node:child_process';
import { existsSync, readdirSync, rmSync, writeFileSync } from 'node:fs';
import path from 'node:path';
import { createStep, writeMidi, type Step } from '@ordle/core';
import { fileOfNotes } from '../core/testing/files';
import { main } from './main';
import { temporaryFolder } from '../core/testing/folder';

const COMMAND = path.resolve(__dirname, 'bin/ordle.mjs');
const recipeOf = (steps: unknown[]) => JSON.stringify({ ordle: 'recipe', version: 1, name: 'x', steps });

/** A folder with `count` files of one note and a recipe. */
function setUp(count = 1, steps: Step[] = [createStep('quantize')]) {
  const folder = temporaryFolder();
  const save = (name: string, content: Uint8Array | string) =>
    writeFileSync(path.join(folder, name), content);
  const names = Array.from({ length: count }, (_, index) => `take-${index}.mid`);
  for (const name of names) save(name, writeMidi(fileOfNotes([[130, 250, 60, 90]])));
  save('recipe.json', recipeOf(steps));
  const lines = { out: [] as string[], err: [] as string[] };
  const run = (...args: string[]) =>
    main(args, folder, { print: (line) => lines.out.push(line), complain: (line) => lines.err.push(line) });
  const environment = { ...process.env, INIT_CWD: folder };
  return { folder, names, save, lines, run, environment };
}

describe('a closed pipe', () => {
  it.each([3, 300])(
    'stops the words, not the work (%d files)',
    async (count) => {
      const { folder, names, environment } = setUp(count);
      const child = spawn(
        process.execPath,
        [COMMAND, 'clean', ...names, '--recipe', 'recipe.json', '--out', 'out'],
        { cwd: folder, env: environment, stdio: ['ignore', 'pipe', 'ignore'] },
      );
      // As "head -1" does: one look, then it is gone.
      child.stdout.once('data', () => child.stdout.destroy());
      const code = await new Promise((resolve) => child.once('exit', resolve));
      expect(code).toBe(0);
      expect(readdirSync(path.join(folder, 'out')).length).toBe(count);
    },
    60_000,
  );
});

describe('half-written files', () => {
  it('of a killed call are swept at the next; those of a running one and other files stay', async () => {
    const { folder, run } = setUp();
    const dead = spawnSync(process.execPath, ['-e', '']).pid;
    execFileSync('mkdir', ['out'], { cwd: folder });
    const stray = [`take-0.mid.${dead}-3.part`, `take-0.mid.${process.pid}-900.part`, 'song.part'];
    for (const name of stray) writeFileSync(path.join(folder, 'out', name), 'x');
    expect(await run('clean', 'take-0.mid', '--recipe', 'recipe.json', '--out', 'out')).toBe(0);
    expect(readdirSync(path.join(folder, 'out')).sort()).toEqual(['song.part', 'take-0.mid', stray[1]]);
  });
});

describe('what is no file', () => {
  it('is refused at once: pipes, devices, folders', async () => {
    const { folder, lines, run } = setUp();
    execFileSync('mkfifo', [path.join(folder, 'pipe')]);
    expect(await run('inspect', 'pipe', '/dev/zero', '.')).toBe(2);
    expect(await run('clean', 'pipe', '--recipe', 'recipe.json', '--out', 'out')).toBe(2);
    expect(await run('clean', 'take-0.mid', '--recipe', 'pipe', '--out', 'out')).toBe(2);
    expect(lines.err.filter((line) => line.includes('is a pipe or a device'))).toHaveLength(4);
  });
});

describe('exit codes and sentences', () => {
  it('inspect returns 1 when some of several files failed, 2 when all did', async () => {
    const { run, save } = setUp();
    save('letter.mid', 'Dear museum');
    expect(await run('inspect', 'take-0.mid', 'letter.mid')).toBe(1);
    expect(await run('inspect', 'letter.mid', 'gone.mid')).toBe(2);
    expect(await run('inspect', 'take-0.mid')).toBe(0);
  });

  it('says in words what the disk says in codes', async () => {
    const { folder, run, save, lines } = setUp();
    save('out', 'a file where the folder should be');
    expect(await run('clean', 'take-0.mid', '--recipe', 'recipe.json', '--out', 'out')).toBe(2);
    expect(await run('clean', 'take-0.mid', '--recipe', 'recipe.json', '--out', 'out/deeper')).toBe(2);
    expect(lines.err).toEqual([
      'The folder out cannot be made: a file of that name is already there.',
      'The folder out/deeper cannot be made: a part of its path is a file, not a folder.',
    ]);
    const long = `${'x'.repeat(300)}.mid`;
    expect(await run('inspect', long)).toBe(2);
    expect(lines.err.at(-1)).toContain('its name is too long');
    expect(existsSync(path.join(folder, 'out/deeper'))).toBe(false);
  });

  it('a disk that fills up costs the files that no longer fit, in plain words', () => {
    const { folder, names, environment } = setUp(2);
    const small = path.join(folder, 'small');
    execFileSync('mkdir', [small]);
    const mounted = spawnSync('mount', ['-t', 'tmpfs', '-o', 'size=4k', 'tmpfs', small]).status === 0;
    if (!mounted) {
      console.warn('!!! no small disk could be made here: the check of a full disk did NOT run.');
      return;
    }
    try {
      writeFileSync(path.join(small, 'ballast'), 'x'.repeat(4096));
      const call = spawnSync(
        process.execPath,
        [COMMAND, 'clean', ...names, '--recipe', 'recipe.json', '--out', 'small'],
        { cwd: folder, env: environment, encoding: 'utf8' },
      );
      expect(call.status).toBe(2);
      expect(call.stderr).toContain('take-0.mid cannot be written: the disk is full.');
      expect(readdirSync(small)).toEqual(['ballast']);
    } finally {
      spawnSync('umount', [small]);
      rmSync(folder, { recursive: true, force: true });
    }
  });
});

describe('hostile recipes', () => {
  it('with a wave over a gap of days are refused for that file, in a sentence and at once', async () => {
    const { run, save, lines, folder } = setUp(1, [createStep('curve', { op: 'wave' })]);
    save('far.mid', writeMidi(fileOfNotes([[0, 10, 60, 90], [0xfffffff, 0xfffffff + 10, 60, 90]]))); // prettier-ignore
    expect(await run('clean', 'far.mid', 'take-0.mid', '--recipe', 'recipe.json', '--out', 'out')).toBe(1);
    expect(lines.err[0]).toContain('would make more than 1,000,000 points');
    expect(readdirSync(path.join(folder, 'out'))).toEqual(['take-0.mid']);
  });

  it('that put a note beyond all files are refused for that file', async () => {
    const { run, lines } = setUp(1, [
      createStep('edits', {
        add: [
          {
            start: Number.MAX_SAFE_INTEGER - 5,
            end: Number.MAX_SAFE_INTEGER,
            pitch: 60,
            velocity: 80,
            channel: 1,
          },
        ],
      }),
    ]);
    expect(await run('clean', 'take-0.mid', '--recipe', 'recipe.json', '--out', 'out')).toBe(2);
    expect(lines.err[0]).toContain('stands so late that no file can hold it');
  });

  it('of many steps or many faults are refused with some of the faults, the rest counted', async () => {
    const { run, save, lines } = setUp();
    save('faulty.json', recipeOf(Array(1000).fill({ kind: 'quantize', strength: 101, loud: true })));
    expect(await run('clean', 'take-0.mid', '--recipe', 'faulty.json', '--out', 'out')).toBe(2);
    expect(lines.err[0].length).toBeLessThan(5000);
    expect(lines.err[0]).toContain('steps[0].strength: must be 0 to 100');
    expect(lines.err[0]).toMatch(/and [\d,]+ more faults$/);
    save('many.json', recipeOf(Array(20_000).fill({ kind: 'quantize' })));
    expect(await run('clean', 'take-0.mid', '--recipe', 'many.json', '--out', 'out')).toBe(2);
    expect(lines.err.at(-1)).toContain('at most 1,000 steps');
  });
});

describe('a signal', () => {
  it('ends a call at once, whatever it is at, and leaves nothing half-written', async () => {
    // A thousand steps over a crowd take a minute; in the call's own thread nothing is heard meanwhile.
    const steps = Array.from({ length: 1000 }, (_, seed) =>
      createStep('humanize', { timingMs: 5, drift: 50, seed }),
    );
    const { folder, save, environment } = setUp(1, steps);
    const notes = Array.from({ length: 40_000 }, (_, at): [number, number, number, number] => [
      at * 30,
      at * 30 + 20,
      40 + (at % 40),
      80,
    ]);
    save('crowd.mid', writeMidi(fileOfNotes(notes)));
    const child = spawn(
      process.execPath,
      [COMMAND, 'clean', 'crowd.mid', '--recipe', 'recipe.json', '--out', 'out'],
      { cwd: folder, env: environment, stdio: 'ignore' },
    );
    const ended = new Promise((resolve) => child.once('exit', (code, signal) => resolve(signal ?? code)));
    // The folder is made before the work begins.
    while (!existsSync(path.join(folder, 'out'))) await new Promise((resolve) => setTimeout(resolve, 20));
    child.kill('SIGTERM');
    expect(await ended).toBe('SIGTERM');
    expect(readdirSync(path.join(folder, 'out'))).toEqual([]);
  }, 60_000);
});
