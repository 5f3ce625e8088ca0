import { spawnSync } from 'node:child_process';
import { mkdirSync, readFileSync, readdirSync, writeFileSync } from 'node:fs';
import path from 'node:path';
import { cleanFile, createStep, readMidi, writeMidi } from '@ordle/core';
import { fileOfNotes } from '../core/testing/files';
import { cleanAll } from './cleaning/cleanAll';
import type { CleaningResult } from './cleaning/cleanOne';
import { temporaryFolder } from '../core/testing/folder';

const COMMAND = path.resolve(__dirname, 'bin/ordle.mjs');
const QUANTIZE = createStep('quantize', { grid: '1/16' });

/** A folder of `count` files of two notes; every tenth holds a letter instead. */
function folderOf(count: number) {
  const folder = temporaryFolder();
  mkdirSync(path.join(folder, 'in'));
  const names = Array.from({ length: count }, (_, index) => `in/take-${String(index).padStart(3, '0')}.mid`);
  names.forEach((name, index) => {
    const late = index % 7;
    const bytes = writeMidi(fileOfNotes([[120 + late, 250, 60, 90], [240 + late, 400, 64, 70]], 480, []),); // prettier-ignore
    writeFileSync(path.join(folder, name), index % 10 === 3 ? 'Dear museum' : bytes);
  });
  writeFileSync(
    path.join(folder, 'recipe.json'),
    JSON.stringify({ ordle: 'recipe', version: 1, name: 'x', steps: [QUANTIZE] }),
  );
  return { folder, names };
}

describe('cleaning many files in one call', () => {
  it('cleans in threads with the results of one thread, lists bad files and returns 1', () => {
    const { folder, names } = folderOf(60);
    const call = spawnSync(
      process.execPath,
      [COMMAND, 'clean', ...names, '--recipe', 'recipe.json', '--out', 'out'],
      { cwd: folder, encoding: 'utf8', env: { ...process.env, INIT_CWD: folder } },
    );
    expect(call.status).toBe(1);
    const lines = call.stdout.trimEnd().split('\n');
    const good = names.filter((_, index) => index % 10 !== 3);
    expect(lines.slice(0, -1).map((line) => line.split(':')[0])).toEqual(good);
    // Two notes a file; one file in seven stands on its lines already. Of the others one in ten is no file of music.
    const moved = good.filter((name) => Number(name.slice(8, 11)) % 7 !== 0).length * 2;
    expect(lines.at(-1)).toBe(
      `54 of 60 files cleaned: ${moved} notes moved, ${moved} of 108 changed in all, 6 files failed`,
    );
    expect(call.stderr).toContain('Failed: in/take-003.mid, in/take-013.mid');
    expect(readdirSync(path.join(folder, 'out'))).toEqual(good.map((name) => path.basename(name)));
    for (const name of good) {
      const { file } = readMidi(new Uint8Array(readFileSync(path.join(folder, name))));
      const written = readFileSync(path.join(folder, 'out', path.basename(name)));
      expect([...written]).toEqual([...writeMidi(cleanFile(file, [QUANTIZE]).file)]);
    }
  }, 30_000);

  it('a thread that breaks costs its files and no others, and the order of the results stays', async () => {
    const { folder, names } = folderOf(20);
    const broken = path.join(folder, 'broken.mjs');
    writeFileSync(
      broken,
      `import { parentPort } from 'node:worker_threads';
       parentPort.on('message', ({ name }) => {
         if (name.includes('take-005')) throw new Error('out of memory');
         if (name.includes('take-011')) process.exit(1);
         parentPort.postMessage({ ok: true, notes: 2, changed: 1, moved: 1, repairs: 0 });
       });`,
    );
    const results: [string, CleaningResult][] = [];
    let done = 0;
    await cleanAll(
      names.map((name) => ({ name, source: name, target: name })),
      {
        cleaning: { suggested: false, steps: [QUANTIZE] },
        workerFile: broken,
        onResult: (result, job) => results.push([job.name, result]),
        onProgress: (count) => (done = count),
      },
    );
    expect(results.map(([name]) => name)).toEqual(names);
    expect(done).toBe(20);
    expect(results.filter(([, { ok }]) => !ok).map(([name]) => name)).toEqual([names[5], names[11]]);
    expect(results[5][1]).toEqual({ ok: false, sentence: expect.stringContaining('out of memory') });
  });
});
