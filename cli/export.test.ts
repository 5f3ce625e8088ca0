import { readFileSync, writeFileSync } from 'node:fs';
import path from 'node:path';
import { unzipSync } from 'fflate';
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
    expect(await complaintOf('pier.mid', ...to, '--finest', '1/5')).toContain('--finest takes one of');
    const crowd = Array.from({ length: 200_001 }, (_, at): PlainNote => [at * 60, at * 60 + 50, 60, 80]);
    writeFileSync(file('crowd.mid'), writeMidi(fileOfNotes(crowd)));
    expect(await complaintOf('crowd.mid', ...to)).toContain('up to 200,000 are written down at once');
    await run('export', 'pier.mid', ...to);
    expect(await complaintOf('pier.mid', ...to)).toContain('already there');
  });
});
