import { readFileSync, readdirSync, writeFileSync } from 'node:fs';
import path from 'node:path';
import { gunzipSync, gzipSync } from 'node:zlib';
import { unzipSync } from 'fflate';
import { parseMidi } from 'midi-file';
import { parse, parseCompressed, validate } from 'musicxml-io';
import { writeMidi } from '@ordle/core';
import { fileOfNotes, type PlainNote } from '../core/testing/files';
import { temporaryFolder } from '../core/testing/folder';
import { main } from './main';

/** Eighths over four bars, a little off. */
const NOTES = Array.from({ length: 32 }, (_, at): PlainNote => [
  at * 240 + ((at * 7) % 13),
  at * 240 + 210,
  60 + (at % 8),
  80,
]);

function setUp() {
  const folder = temporaryFolder();
  const file = (name: string) => path.join(folder, name);
  writeFileSync(file('pier.mid'), writeMidi(fileOfNotes(NOTES)));
  writeFileSync(file('empty.mid'), writeMidi(fileOfNotes([])));
  writeFileSync(
    file('up.json'),
    JSON.stringify({
      ordle: 'recipe',
      version: 1,
      name: 'Up',
      steps: [{ kind: 'transpose', semitones: 12 }],
    }),
  );
  const lines = { out: [] as string[], err: [] as string[] };
  const run = async (...args: string[]) => {
    const code = await main(args, folder, {
      print: (line) => lines.out.push(line),
      complain: (line) => lines.err.push(line),
    });
    return { code, said: lines.out.splice(0).join(' '), complaint: lines.err.splice(0).join(' ') };
  };
  return { file, run };
}

describe('ordle export', () => {
  it('writes notation that an independent reader finds right, plain and compressed', async () => {
    const { file, run } = setUp();
    const { code, said } = await run('export', 'pier.mid', '--to', 'musicxml', '--out', 'pier.musicxml');
    const xml = readFileSync(file('pier.musicxml'), 'utf8');
    expect([code, said]).toEqual([0, `pier.musicxml: ${xml.length} bytes`]);
    expect(validate(parse(xml)).errors).toEqual([]);
    expect([...xml.matchAll(/<type>(\w+)</g)].map(([, type]) => type)).toEqual(Array(32).fill('eighth'));
    await run('export', 'pier.mid', '--to', 'mxl', '--out', 'pier.mxl');
    const bytes = Uint8Array.from(readFileSync(file('pier.mxl')));
    expect(validate(parseCompressed(bytes)).errors).toEqual([]);
    // Its media type comes first and plain, so that it is known by its first bytes.
    expect(Buffer.from(bytes.subarray(30, 38)).toString()).toBe('mimetype');
    expect(Buffer.from(unzipSync(bytes)['score.musicxml']).toString()).toBe(xml);
  });

  it('what was written is read again as any other file', async () => {
    const { run } = setUp();
    for (const to of ['musicxml', 'mxl']) {
      await run('export', 'pier.mid', '--to', to, '--out', `pier.${to}`);
      const { code, said } = await run('inspect', `pier.${to}`, '--json');
      expect(code).toBe(0);
      expect(said).toContain('"notes":32');
      await run('export', `pier.${to}`, '--to', 'musicxml', '--out', `again.${to}.musicxml`);
    }
    expect((await run('readings', 'pier.mxl', '--json')).said).toContain('"offMs":0');
  });

  it('takes bars, a recipe, staves and the finest value', async () => {
    const { file, run } = setUp();
    const out = ['--to', 'musicxml', '--overwrite', '--out', 'pier.musicxml'];
    await run('export', 'pier.mid', ...out, '--bars', '2-3', '--recipe', 'up.json', '--staves', '2');
    const xml = readFileSync(file('pier.musicxml'), 'utf8');
    expect([...xml.matchAll(/<measure number="(\d)"/g)].map(([, number]) => number)).toEqual(['2', '3']);
    expect(xml).toContain('<staves>2</staves>');
    expect(xml).not.toContain('<octave>4</octave>');
    await run('export', 'pier.mid', ...out, '--finest', '1/4', '--as', 'played');
    expect(readFileSync(file('pier.musicxml'), 'utf8')).not.toContain('eighth');
  });

  it('says what it cannot do, and writes nothing then', async () => {
    const { file, run } = setUp();
    const complaintOf = async (...args: string[]) => {
      const { code, complaint } = await run('export', ...args);
      expect(code).toBe(2);
      return complaint;
    };
    const to = ['--to', 'musicxml', '--out', 'x.musicxml'];
    expect(await complaintOf('pier.mid', '--to', 'pdf', '--out', 'x')).toContain(
      '--to takes one or more, with commas between, of: mid, musicxml, mxl, csv',
    );
    expect(await complaintOf('pier.mid', '--to', 'mxl')).toContain('Name a file');
    expect(await complaintOf('empty.mid', ...to)).toContain('no notes');
    expect(await complaintOf('none.mid', ...to)).toContain('none.mid');
    expect(await complaintOf('pier.mid', ...to, '--bars', '4-2')).toContain('as 5-12');
    expect(await complaintOf('pier.mid', ...to, '--parts', 'Horn')).toContain('There is no part "Horn"');
    expect(await complaintOf('pier.mid', ...to, '--staves', '3')).toContain('--staves takes 1 or 2');
    expect(await complaintOf('pier.mid', ...to, '--finest', '1/5')).toContain('--finest takes 1/4 or 1/8');
    const crowd = Array.from({ length: 200_001 }, (_, at): PlainNote => [at * 60, at * 60 + 50, 60, 80]);
    writeFileSync(file('crowd.mid'), writeMidi(fileOfNotes(crowd)));
    expect(await complaintOf('crowd.mid', ...to)).toContain('up to 200,000 are written down at once');
    await run('export', 'pier.mid', ...to);
    expect(await complaintOf('pier.mid', ...to)).toContain('already there');
  });

  it('writes each format as its name says, the same as in a zip of them', async () => {
    const { file, run } = setUp();
    const names = ['mid', 'musicxml', 'mxl', 'csv', 'wav', 'report', 'ordle', 'groove'];
    for (const name of names) {
      const { code } = await run('export', 'pier.mid', '--to', name, '--out', `one.${name}`);
      expect(code).toBe(0);
    }
    const { code, said } = await run(
      'export',
      'pier.mid',
      '--to',
      names.join(),
      '--out',
      'all.zip',
      '--json',
    );
    expect(code).toBe(0);
    const zip = unzipSync(readFileSync(file('all.zip')));
    const { written } = JSON.parse(said) as { written: { bytes: number; holds: string[] }[] };
    expect([written[0].bytes, written[0].holds]).toEqual([
      readFileSync(file('all.zip')).length,
      Object.keys(zip),
    ]);
    const endings = ['mid', 'musicxml', 'mxl', 'csv', 'wav', 'html', 'ordle', 'json'];
    expect(Object.keys(zip).map((name) => name.split('.').at(-1))).toEqual(endings);
    names.forEach((name, at) => {
      expect(Buffer.compare(Object.values(zip)[at], readFileSync(file(`one.${name}`)))).toBe(0);
    });
    // What nothing was done to goes out as it came.
    expect(readFileSync(file('one.mid')).equals(readFileSync(file('pier.mid')))).toBe(true);
  });

  it('takes the settings of each format', async () => {
    const { file, run } = setUp();
    const out = async (name: string, ...args: string[]) => {
      const { code } = await run('export', 'pier.mid', '--overwrite', '--out', name, ...args);
      expect(code).toBe(0);
      return readFileSync(file(name));
    };
    const midi = parseMidi(await out('a.mid', '--to', 'mid', '--format', '1', '--division', '96'));
    expect([midi.header.format, midi.header.ticksPerBeat, midi.tracks.length]).toEqual([1, 96, 2]);
    const table = (await out('a.csv', '--to', 'csv', '--controllers')).toString();
    expect(table).toBe('part,channel,tick,seconds,lane,value\r\n');
    const bars = (await out('a.csv', '--to', 'csv', '--bars', '2-2'))
      .toString()
      .trim()
      .split('\r\n')
      .slice(1);
    expect(bars.map((line) => line.split(',')[2])).toEqual(Array(8).fill('2'));
    const wav = await out(
      'a.wav',
      '--to',
      'wav',
      '--rate',
      '48000',
      '--bits',
      '24',
      '--tail',
      'bar',
      '--bars',
      '1-1',
    );
    expect(wav.length).toBe(44 + 2 * 48000 * 6);
    const stems = unzipSync(await out('a.zip', '--to', 'wav', '--stems', '--bars', '1-1'));
    expect(Object.keys(stems)).toEqual(['pier - Acoustic Grand Piano - bar 1.wav']);
    await run('export', 'pier.mid', '--to', 'mid', '--one-file-a-part', '--out', 'apart');
    expect(readdirSync(file('apart'))).toEqual(['pier - Acoustic Grand Piano.mid']);
  });

  it('writes several files into a folder by their names, and many inputs one after the other', async () => {
    const { file, run } = setUp();
    const one = await run(
      'export',
      'pier.mid',
      '--to',
      'mid,csv',
      '--out',
      'parts/',
      '--names',
      '{session}_{tempo}',
    );
    expect(one.code).toBe(0);
    expect(readdirSync(file('parts')).sort()).toEqual(['pier_120.csv', 'pier_120.mid']);
    const many = await run(
      'export',
      'pier.mid',
      'none.mid',
      'parts/pier_120.mid',
      '--to',
      'csv',
      '--out',
      'tables',
      '--json',
    );
    expect(many.code).toBe(1);
    expect(many.complaint).toContain('none.mid');
    const { files } = JSON.parse(many.said) as { files: { file: string }[] };
    expect(files.map((each) => each.file)).toEqual(['pier.mid', 'parts/pier_120.mid']);
    expect(readdirSync(file('tables')).sort()).toEqual(['pier.csv', 'pier_120.csv']);
  });

  it('a session file goes out again as it came, with the history that came with it where that is asked for', async () => {
    const { file, run } = setUp();
    await run('export', 'pier.mid', '--to', 'ordle', '--out', 'a.ordle');
    await run('export', 'a.ordle', '--to', 'ordle', '--out', 'b.ordle');
    expect(readFileSync(file('b.ordle')).equals(readFileSync(file('a.ordle')))).toBe(true);
    const text = gunzipSync(readFileSync(file('a.ordle'))).toString();
    const history = { version: 2, done: [{ label: 'Quantize' }], undone: [] };
    const told = JSON.stringify({ ...(JSON.parse(text) as object), history });
    writeFileSync(file('c.ordle'), gzipSync(told));
    await run('export', 'c.ordle', '--to', 'ordle', '--history', '--out', 'd.ordle');
    expect(gunzipSync(readFileSync(file('d.ordle'))).toString()).toBe(told);
    await run('export', 'c.ordle', '--to', 'ordle', '--out', 'e.ordle');
    expect(gunzipSync(readFileSync(file('e.ordle'))).toString()).toBe(text);
  });

  it('refuses what does not go together, and leaves nothing half-written', async () => {
    const { file, run } = setUp();
    const complaintOf = async (...args: string[]) => {
      const { code, complaint } = await run('export', 'pier.mid', ...args);
      expect(code).toBe(2);
      return complaint;
    };
    const to = (name: string, ...args: string[]) => complaintOf('--to', name, '--out', 'x', ...args);
    expect(await to('mid', '--rate', '48000')).toContain('--rate goes with --to wav');
    expect(await to('wav', '--rate', '22050')).toContain('--rate takes 44100 or 48000 or 96000');
    expect(await to('mid', '--division', '0')).toContain('--division must be a number from 1');
    expect(await to('mid', '--bars', '1-2', '--each', 'section')).toContain('do not go together');
    expect(await to('mid', '--each', 'section')).toContain('has no sections');
    expect(await to('recipe')).toContain('nothing in these parts');
    expect(await complaintOf('--to', 'csv', '--controllers', '--tempo', '--out', 'x.csv')).toContain(
      'These are 2 files: name a zip (--out x.zip) or a folder (--out x/).',
    );
    writeFileSync(file('x'), 'kept');
    expect(await to('csv')).toContain('already there');
    expect(readFileSync(file('x'), 'utf8')).toBe('kept');
    expect(readdirSync(file('.')).filter((name) => name.endsWith('.part'))).toEqual([]);
  });
});
