import { existsSync, readFileSync, readdirSync, writeFileSync } from 'node:fs';
import path from 'node:path';
import { parseMidi } from 'midi-file';
import { writeMidi } from '@ordle/core';
import { fileOfNotes } from '../core/testing/files';
import { main } from './main';
import { temporaryFolder } from '../core/testing/folder';

/** A folder with a file, a damaged one, a hopeless one and a recipe. */
function setUp() {
  const folder = temporaryFolder();
  const save = (name: string, content: Uint8Array | string) =>
    writeFileSync(path.join(folder, name), content);
  const sound = writeMidi(
    fileOfNotes(
      [
        [130, 250, 60, 90],
        [245, 400, 64, 70],
      ],
      480,
      [
        [0, 0xff, 0x51, 0, [0x08, 0x7a, 0x23]],
        [0, 0xff, 0x58, 0, [3, 2, 24, 8]],
        [0, 0xff, 0x03, 0, [...Buffer.from('Quay')]],
        [0, 0xc0, 12],
        [10, 0xb0, 64, 127],
        [20, 0xb0, 64, 0],
        [30, 0xe0, 0, 72],
      ],
    ),
  );
  save('sound.mid', sound);
  save('cut.mid', sound.slice(0, sound.length - 5));
  save('letter.mid', 'Dear museum');
  save(
    'recipe.json',
    JSON.stringify({ ordle: 'recipe', version: 1, name: 'x', steps: [{ kind: 'quantize', grid: '1/16' }] }),
  );
  save(
    'bad.json',
    JSON.stringify({ ordle: 'recipe', version: 1, name: 'x', steps: [{ kind: 'quantize', strength: 101 }] }),
  );
  const lines = { out: [] as string[], err: [] as string[] };
  const run = (...args: string[]) =>
    main(args, folder, { print: (line) => lines.out.push(line), complain: (line) => lines.err.push(line) });
  return { folder, run, lines, sound };
}

describe('ordle inspect', () => {
  it('says what is in a file as JSON', async () => {
    const { run, lines } = setUp();
    expect(await run('inspect', 'sound.mid', '--json')).toBe(0);
    expect(JSON.parse(lines.out[0])).toEqual({
      file: 'sound.mid',
      format: 0,
      division: 480,
      durationSeconds: 0.462962,
      tempos: [{ tick: 0, bpm: 108 }],
      meters: [{ tick: 0, numerator: 3, denominator: 4 }],
      tracks: [
        { index: 0, name: 'Quay', channels: [1], program: 12, notes: 2, controllers: { cc64: 2, bend: 1 } },
      ],
      notes: 2,
      repairs: [],
    });
  });

  it('lists repairs with their places, and refuses with exit code 2 and a sentence', async () => {
    const { run, lines } = setUp();
    expect(await run('inspect', 'cut.mid', '--json')).toBe(0);
    expect(JSON.parse(lines.out[0]).repairs[0]).toEqual({
      code: expect.any(String),
      message: expect.any(String),
      track: 0,
      byte: expect.any(Number),
    });
    expect(await run('inspect', 'letter.mid', '--json')).toBe(2);
    expect(await run('inspect', 'gone.mid')).toBe(2);
    expect(lines.err).toEqual([
      'letter.mid: This is not a Standard MIDI File: it has no "MThd" header.',
      'gone.mid: there is no such file.',
    ]);
  });
});

describe('ordle clean', () => {
  it('writes each cleaned file under its own name, the same in all but the notes', async () => {
    const { folder, run, lines, sound } = setUp();
    expect(await run('clean', 'sound.mid', 'cut.mid', '--recipe', 'recipe.json', '--out', 'out')).toBe(0);
    expect(lines.out).toEqual([
      expect.stringContaining('2 of 2 notes changed'),
      expect.stringContaining('on reading'),
      '2 of 2 files cleaned: 4 notes moved, 4 of 4 changed in all, 0 files failed',
    ]);
    const events = (bytes: Uint8Array) => {
      let tick = 0;
      return parseMidi(bytes).tracks[0].map((event) => ({
        ...event,
        deltaTime: undefined,
        tick: (tick += event.deltaTime),
      }));
    };
    const cleaned = events(new Uint8Array(readFileSync(path.join(folder, 'out/sound.mid'))));
    expect(cleaned.filter(({ type }) => type === 'noteOn').map(({ tick }) => tick)).toEqual([120, 240]);
    const others = (list: typeof cleaned) =>
      list.filter(({ type }) => type !== 'noteOn' && type !== 'noteOff' && type !== 'endOfTrack');
    expect(others(cleaned)).toEqual(others(events(sound)));
  });

  it('replaces nothing unless told to, writes nothing for bad files and goes on with the others', async () => {
    const { folder, run, lines } = setUp();
    expect(await run('clean', 'letter.mid', 'sound.mid', '--recipe', 'recipe.json', '--out', 'out')).toBe(1);
    expect(readdirSync(path.join(folder, 'out'))).toEqual(['sound.mid']);
    expect(lines.err.at(-1)).toBe('Failed: letter.mid');
    expect(await run('clean', 'letter.mid', 'gone.mid', '--recipe', 'recipe.json', '--out', 'out')).toBe(2);
    expect(await run('clean', 'sound.mid', '--recipe', 'recipe.json', '--out', 'out')).toBe(2);
    expect(lines.err.at(-1)).toContain('already there');
    expect(await run('clean', 'sound.mid', '--recipe', 'recipe.json', '--out', 'out', '--overwrite')).toBe(0);
    expect(await run('clean', 'sound.mid', '--recipe', 'recipe.json', '--out', '.')).toBe(2);
    expect(await run('clean', 'sound.mid', './sound.mid', '--recipe', 'recipe.json', '--out', 'twice')).toBe(
      1,
    );
  });

  it('refuses a bad recipe and bad arguments before touching anything', async () => {
    const { folder, run, lines } = setUp();
    expect(await run('clean', 'sound.mid', '--recipe', 'bad.json', '--out', 'out')).toBe(2);
    expect(lines.err[0]).toBe('bad.json: The recipe cannot be used. steps[0].strength: must be 0 to 100');
    expect(existsSync(path.join(folder, 'out'))).toBe(false);
    expect(await run('clean', 'sound.mid', '--recipe', 'recipe.json')).toBe(2);
    expect(await run('clean', 'sound.mid', '--recipe', 'recipe.json', '--out', 'out', '--loud')).toBe(2);
    expect(await run('polish')).toBe(2);
    expect(await run('help')).toBe(0);
    expect(await run('recipes', '--schema')).toBe(0);
    expect(JSON.parse(lines.out.at(-1) ?? '')).toMatchObject({ type: 'object' });
    expect(await run('recipes')).toBe(2);
  });
});
