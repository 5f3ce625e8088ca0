import { readFileSync, writeFileSync } from 'node:fs';
import path from 'node:path';
import { parseMidi } from 'midi-file';
import { writeMidi } from '@ordle/core';
import { fileOfNotes, type RawEvent } from '../core/testing/files';
import { main } from './main';
import { temporaryFolder } from '../core/testing/folder';

/** A bass note and a chord on each beat at 97.2 bpm, in a file whose own tempo is 120: a second is 960 ticks. */
function free(): Uint8Array {
  const beat = 60 / 97.2;
  const notes = Array.from({ length: 64 }, (_, at): [number, number, number, number][] => {
    const tick = Math.round((0.8 + at * beat) * 960);
    const low = at % 4 === 0 ? 36 + ((at / 4) % 3) * 5 : 48;
    return [
      [tick, tick + 500, low, at % 4 === 0 ? 100 : 70],
      [tick, tick + 400, 64 + (Math.floor(at / 4) % 3), 70],
      [tick + Math.round(beat * 480), tick + Math.round(beat * 480) + 150, 72, 55],
    ];
  }).flat();
  return writeMidi(fileOfNotes(notes, 480));
}

function setUp() {
  const folder = temporaryFolder();
  const save = (name: string, content: Uint8Array | string) =>
    writeFileSync(path.join(folder, name), content);
  save('free.mid', free());
  save('empty.mid', writeMidi(fileOfNotes([])));
  save('letter.mid', 'Dear museum');
  const pedal: RawEvent[] = [[0, 0xb0, 64, 127]];
  save(
    'faults.mid',
    writeMidi(
      fileOfNotes(
        [
          [19, 200, 60, 90],
          [480, 490, 62, 90],
          [500, 900, 62, 40],
          [960, 1400, 64, 90],
        ],
        480,
        pedal,
      ),
    ),
  );
  const lines = { out: [] as string[], err: [] as string[] };
  const run = (...args: string[]) => {
    lines.out.length = 0;
    lines.err.length = 0;
    return main(args, folder, {
      print: (line) => lines.out.push(line),
      complain: (line) => lines.err.push(line),
    });
  };
  const json = <T>() => JSON.parse(lines.out.join('')) as T;
  const open = (name: string) => parseMidi(readFileSync(path.join(folder, name)));
  return { run, lines, json, open };
}

interface Tempo {
  bpm: number;
  confidence: number;
  beats: number[];
  downbeats: number[];
  meter: string;
  map: { seconds: number; bpm: number }[];
}

/** Note starts of a file in seconds, by midi-file and arithmetic of our own. */
function secondsIn({ header, tracks }: ReturnType<typeof parseMidi>): number[] {
  const all = tracks.flatMap((track) => {
    let tick = 0;
    return track.map((event) => ({ tick: (tick += event.deltaTime), event }));
  });
  const tempos = all
    .flatMap(({ tick, event }) =>
      event.type === 'setTempo' ? [{ tick, us: event.microsecondsPerBeat }] : [],
    )
    .sort((a, b) => a.tick - b.tick);
  const at = (tick: number) => {
    let [seconds, from, us] = [0, 0, 500000];
    for (const change of tempos) {
      if (change.tick > tick) break;
      seconds += ((change.tick - from) * us) / 1e6 / (header.ticksPerBeat ?? 480);
      [from, us] = [change.tick, change.us];
    }
    return seconds + ((tick - from) * us) / 1e6 / (header.ticksPerBeat ?? 480);
  };
  return all
    .flatMap(({ tick, event }) => (event.type === 'noteOn' && event.velocity > 0 ? [at(tick)] : []))
    .sort((a, b) => a - b);
}

describe('ordle tempo', () => {
  it('prints the beats of a performance, and one tempo where it is asked for', async () => {
    const { run, json } = setUp();
    expect(await run('tempo', 'free.mid', '--json')).toBe(0);
    const found = json<Tempo>();
    expect(found.meter).toBe('4/4');
    expect(Math.abs(found.bpm / 97.2 - 1)).toBeLessThan(0.01);
    expect(found.beats.length).toBeGreaterThan(60);
    expect(found.downbeats.every((at) => found.beats.includes(at))).toBe(true);
    expect(found.map[0].seconds).toBe(0);
    expect(await run('tempo', 'free.mid', '--steady', '--json')).toBe(0);
    const steady = json<Tempo>();
    expect(Math.abs(steady.bpm / 97.2 - 1)).toBeLessThan(0.002);
    expect(steady.map).toEqual([{ seconds: 0, bpm: steady.bpm }]);
  });

  it('writes the same performance under the found map; an independent reader finds every start where it was', async () => {
    const { run, open, lines } = setUp();
    expect(await run('tempo', 'free.mid', '--write', 'out.mid')).toBe(0);
    const [before, after] = [secondsIn(open('free.mid')), secondsIn(open('out.mid'))];
    expect(after).toHaveLength(before.length);
    before.forEach((at, row) => expect(Math.abs(after[row] - at)).toBeLessThan(0.001));
    expect(await run('tempo', 'free.mid', '--write', 'out.mid')).toBe(2);
    expect(lines.err.join(' ')).toContain('give --overwrite');
  });

  it('takes several files, and says which cannot be used', async () => {
    const { run, json, lines } = setUp();
    expect(await run('tempo', 'free.mid', 'empty.mid', 'letter.mid', '--json')).toBe(1);
    expect(json<{ files: { file: string }[] }>().files.map(({ file }) => file)).toEqual(['free.mid']);
    expect(lines.err.join(' ')).toContain('empty.mid: It holds no notes');
    expect(await run('tempo', 'letter.mid', '--json')).toBe(2);
    expect(await run('tempo', 'free.mid', 'faults.mid', '--write', 'x.mid')).toBe(2);
  });
});

describe('ordle readings and findings', () => {
  it('measure each part', async () => {
    const { run, json, lines } = setUp();
    expect(await run('readings', 'faults.mid', '--grid', '1/4', '--json')).toBe(0);
    const [part] = json<{ parts: { notes: number; biasMs: number; swing: number | null }[] }>().parts;
    expect(part.notes).toBe(4);
    // 19 and 20 ticks late of four notes, at 0.96 ticks a millisecond.
    expect(part.biasMs).toBeCloseTo((19 + 20) / 0.96 / 4, 6);
    expect(await run('readings', 'faults.mid', '--grid', '1/5')).toBe(2);
    expect(lines.err.join(' ')).toContain('--grid must be a note value');
  });

  it('find what is wrong, and mend it', async () => {
    const { run, json, open } = setUp();
    expect(await run('findings', 'faults.mid', '--mend', 'mended.mid', '--json')).toBe(0);
    const found = json<{
      findings: { kind: string; bar: number; notes: { tick: number; pitch: number }[] }[];
    }>().findings;
    expect(found.map(({ kind }) => kind)).toEqual(['pedal-left-down', 'double-strike']);
    expect(found[1]).toMatchObject({ bar: 1, notes: [{ tick: 500, pitch: 62 }] });
    const strokes = open('mended.mid')
      .tracks.flat()
      .filter((event) => event.type === 'noteOn' && event.velocity > 0);
    expect(strokes).toHaveLength(3);
    expect(await run('findings', 'mended.mid', '--json')).toBe(0);
    expect(json<{ findings: unknown[] }>().findings).toEqual([]);
  });

  it('says what would clean a file up and does it; what was played freely is put under its own tempo', async () => {
    const { run, json, open, lines } = setUp();
    expect(await run('suggest', 'free.mid', '--json', '--apply', 'clean.mid', '--recipe', 'clean.json')).toBe(
      0,
    );
    const said = json<{
      recorded: string;
      bpm: number;
      parts: { notes: number; reasons: string[] }[];
      findings: number;
    }>();
    expect(said.recorded).toBe('freely');
    expect(said.bpm).toBeCloseTo(97.2, 0);
    expect(said.parts).toHaveLength(1);
    expect(said.parts[0].reasons[0]).toContain('tight');
    const [before, after] = [secondsIn(open('free.mid')), secondsIn(open('clean.mid'))];
    expect(after).toHaveLength(before.length);
    after.forEach((at, row) => expect(Math.abs(at - before[row])).toBeLessThan(0.02));
    expect(await run('suggest', 'empty.mid', 'letter.mid')).toBe(1);
    expect(lines.out[0]).toContain('empty.mid: recorded to the click');
    expect(await run('suggest', 'free.mid', 'empty.mid', '--apply', 'x.mid')).toBe(2);
    expect(await run('suggest')).toBe(2);
  });
});
