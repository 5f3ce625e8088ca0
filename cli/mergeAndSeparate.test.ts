import { existsSync, readFileSync, readdirSync, writeFileSync } from 'node:fs';
import path from 'node:path';
import { parseMidi } from 'midi-file';
import { createStep, listOf, orderedOf, writeMidi, writeSessionFile } from '@ordle/core';
import { gzipSync } from 'node:zlib';
import { fileOfNotes } from '../core/testing/files';
import { sessionOf, storedTakesOf } from '../core/testing/markedSession';
import { main } from './main';
import { temporaryFolder } from '../core/testing/folder';

function setUp() {
  const folder = temporaryFolder();
  const save = (name: string, content: Uint8Array | string) =>
    writeFileSync(path.join(folder, name), content);
  const at = (...starts: number[]) => fileOfNotes(starts.map((start) => [start, start + 90, 60, 90]));
  save('a.mid', writeMidi(at(0, 480, 1960, 2480)));
  save('b.mid', writeMidi(at(50, 440, 1920, 2400)));
  save('letter.mid', 'Dear museum');
  save(
    'chords.mid',
    writeMidi(
      fileOfNotes([
        [0, 400, 48, 90],
        [0, 400, 60, 90],
        [0, 400, 64, 90],
      ]),
    ),
  );
  const lines = { out: [] as string[], err: [] as string[] };
  const run = (...args: string[]) =>
    main(args, folder, { print: (line) => lines.out.push(line), complain: (line) => lines.err.push(line) });
  /** Starts and pitches of a written file, read by an independent reader. */
  const notes = (name: string) =>
    parseMidi(readFileSync(path.join(folder, name))).tracks.flatMap((track) => {
      let tick = 0;
      return track.flatMap((event) => {
        tick += event.deltaTime;
        return event.type === 'noteOn' && event.velocity > 0 ? [[tick, event.noteNumber]] : [];
      });
    });
  return { folder, run, lines, notes };
}

describe('ordle merge', () => {
  it('chooses the tightest file for each bar and says so as JSON', async () => {
    const { run, lines, notes } = setUp();
    expect(await run('merge', 'a.mid', 'b.mid', '--mode', 'tightest', '--json', '--out', 'c.mid')).toBe(0);
    expect(lines.out).toHaveLength(1);
    const report = JSON.parse(lines.out[0]) as { bars: { bar: number; file: number }[]; switches: number };
    expect(report.bars.map(({ bar, file }) => [bar, file])).toEqual([
      [1, 0],
      [2, 1],
    ]);
    expect(report.switches).toBe(1);
    expect(notes('c.mid').map(([tick]) => tick)).toEqual([0, 480, 1920, 2400]);
  });

  it('never overwrites unless told to, and says what is wrong with an option', async () => {
    const { run, lines, folder } = setUp();
    expect(await run('merge', 'a.mid', 'b.mid', '--mode', 'layer', '--out', 'a.mid')).toBe(2);
    expect(lines.err.at(-1)).toContain('already there');
    for (const [option, value] of [
      ['--mode', 'pile'],
      ['--doubles', 'none'],
      ['--within', 'x'],
    ]) {
      const usual = ['merge', 'a.mid', 'b.mid', '--mode', 'layer', '--out', 'new.mid'];
      expect(await run(...usual, option, value)).toBe(2);
      expect(lines.err.at(-1)).toContain(value);
    }
    expect(await run('merge', 'a.mid', '--mode', 'tightest', '--grid', '1/7', '--out', 'new.mid')).toBe(2);
    expect(await run('merge')).toBe(2);
    expect(existsSync(path.join(folder, 'new.mid'))).toBe(false);
  });

  it('merges what it can read of several and exits with 1; with 2 where there is nothing', async () => {
    const { run, lines, notes } = setUp();
    const all = ['merge', 'letter.mid', 'a.mid', 'b.mid', '--mode', 'join', '--json', '--out', 'j.mid'];
    expect(await run(...all)).toBe(1);
    expect(lines.err[0]).toContain('letter.mid');
    // Files are counted as they were named.
    expect(JSON.parse(lines.out[0])).toEqual({
      files: [
        { file: 1, bar: 1, tick: 0 },
        { file: 2, bar: 3, tick: 3840 },
      ],
    });
    expect(notes('j.mid')).toHaveLength(8);
    expect(await run('merge', 'letter.mid', 'none.mid', '--mode', 'join', '--out', 'k.mid')).toBe(2);
  });
});

describe('ordle separate', () => {
  it('writes a file for each share, every note in one', async () => {
    const { run, lines, notes } = setUp();
    expect(await run('separate', 'chords.mid', '--by', 'voice', '--out', 'shares', '--json')).toBe(0);
    const { parts } = JSON.parse(lines.out[0]) as { parts: { label: string; notes: number }[] };
    expect(parts.map(({ label, notes: count }) => `${label} ${count}`)).toEqual([
      'highest 1',
      'lowest 1',
      'inner 1',
    ]);
    expect(notes('shares/chords.highest.mid')).toEqual([[0, 64]]);
    expect(notes('shares/chords.lowest.mid')).toEqual([[0, 48]]);
    // Neither is anything replaced, nor half of a file written.
    expect(await run('separate', 'chords.mid', '--by', 'voice', '--out', 'shares')).toBe(2);
    expect(lines.err.at(-1)).toContain('already there');
    expect(await run('separate', 'chords.mid', '--by', 'voice', '--out', 'shares', '--overwrite')).toBe(0);
  });

  it('goes on past a bad file, and refuses a rule there is not', async () => {
    const { run, lines, folder } = setUp();
    expect(await run('separate', 'letter.mid', 'a.mid', '--by', 'pitch:61', '--out', 'low', '--json')).toBe(
      1,
    );
    expect(JSON.parse(lines.out[0])).toMatchObject({ files: [{ file: 'a.mid' }] });
    expect(readdirSync(path.join(folder, 'low'))).toEqual(['a.low.mid']);
    expect(await run('separate', 'a.mid', '--by', 'pitch:200', '--out', 'x')).toBe(2);
    expect(lines.err.at(-1)).toContain('pitch:200');
    expect(await run('separate', 'a.mid', '--by', 'voice')).toBe(2);
  });
});

describe('a session file', () => {
  it('is read as what it would be exported as, by every command; a damaged one is refused with a sentence', async () => {
    const { folder, run, lines, notes } = setUp();
    const bytes = writeMidi(
      fileOfNotes([
        [0, 90, 60, 90],
        [30, 120, 72, 90],
      ]),
    );
    const { session, takes } = sessionOf(bytes);
    const [part] = listOf(session.parts);
    const steps = orderedOf([{ id: 'q', step: createStep('quantize', { grid: '1/4' }) }]);
    const cleaned = { ...session, parts: orderedOf([{ ...part, steps }]) };
    const text = writeSessionFile({ session: cleaned, takes: storedTakesOf(session, takes), tables: [] });
    const packed = gzipSync(text);
    writeFileSync(path.join(folder, 'quay.ordle'), packed);
    writeFileSync(path.join(folder, 'half.ordle'), packed.subarray(0, packed.length / 2));
    expect(await run('merge', 'quay.ordle', 'a.mid', '--mode', 'layer', '--out', 'c.mid')).toBe(0);
    expect(notes('c.mid').filter(([, pitch]) => pitch === 72)).toEqual([[0, 72]]);
    expect(await run('separate', 'quay.ordle', '--by', 'pitch:65', '--out', 'out')).toBe(0);
    expect(notes('out/quay.high.mid')).toEqual([[0, 72]]);
    expect(await run('inspect', 'quay.ordle')).toBe(0);
    expect(await run('inspect', 'half.ordle')).toBe(2);
    expect(lines.err.join(' ')).toContain('half.ordle: This session file is damaged, or it was cut short.');
  });
});
