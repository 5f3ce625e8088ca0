import { spawn } from 'node:child_process';
import { mkdtempSync, readFileSync, rmSync, writeFileSync } from 'node:fs';
import { tmpdir } from 'node:os';
import path from 'node:path';
import { createEventBuilder, planExport, writeExport, writeMidi, type MidiTrack } from '@ordle/core';
import { choiceOf, sourceOf, workshop } from '../../core/testing/exporting';
import { fileOfNotes, type PlainNote } from '../../core/testing/files';
import type { BenchRow } from '../core';

const QUARTER = 480;
/** Beats a second, and notes a beat of each part: chords, a bass, a kit, held chords, a melody. */
const BEATS = 2;
const PARTS = [
  { program: 12, notes: 2 },
  { program: 32, notes: 1 },
  { program: 0, notes: 4, drums: true },
  { program: 20, notes: 1, chord: true },
  { program: 73, notes: 2 },
];

/** A made-up piece of five parts. */
function piece(minutes: number): Uint8Array {
  const beats = minutes * 60 * BEATS;
  const tempo = createEventBuilder();
  tempo.add(0, 0xff, 0x51, 0, Uint8Array.of(7, 0xa1, 0x20));
  const tracks = PARTS.map(({ program, notes, drums, chord }, part): MidiTrack => {
    const channel = drums ? 9 : part;
    const list: [number, number, number, number][] = [];
    for (let at = 0; at < beats * notes; at++) {
      const start = Math.round((at * QUARTER) / notes) + ((at * 37) % 21);
      const pitch = drums ? [36, 42, 38, 42][at % 4] : 48 + ((at * 7 + part * 5) % 24);
      const end = start + Math.round((0.9 * QUARTER) / notes);
      for (const each of chord ? [pitch, pitch + 4] : [pitch])
        list.push([start, 0x90 | channel, each, 60 + ((at * 13) % 50)], [end, 0x80 | channel, each, 64]);
    }
    list.sort((a, b) => a[0] - b[0]);
    const events = createEventBuilder();
    events.add(0, 0xc0 | channel, program, 0);
    for (const each of list) events.add(...each);
    return { events: events.build(), endTick: beats * QUARTER };
  });
  return writeMidi({
    format: 1,
    division: { kind: 'metrical', ticksPerQuarter: QUARTER },
    tracks: [{ events: tempo.build(), endTick: 0 }, ...tracks],
  });
}

/** Runs the command line; how long it took in seconds, and the most memory it had in MB. */
async function run(args: readonly string[], cwd: string): Promise<{ seconds: number; megabytes: number }> {
  const begun = performance.now();
  const child = spawn(process.execPath, [path.resolve('cli/bin/ordle.mjs'), ...args], {
    cwd,
    stdio: 'ignore',
    // Names are taken from where npm was called, which is here.
    env: { ...process.env, INIT_CWD: cwd },
  });
  let most = 0;
  const look = setInterval(() => {
    try {
      const status = readFileSync(`/proc/${child.pid}/status`, 'utf8');
      most = Math.max(most, Number(/VmHWM:\s+(\d+)/.exec(status)?.[1] ?? 0) / 1024);
    } catch {
      // It is over, or this system tells it otherwise.
    }
  }, 50);
  const code = await new Promise<number | null>((resolve) => child.on('close', resolve));
  clearInterval(look);
  if (code !== 0) throw new Error(`ordle ${args.join(' ')} ended with ${code}`);
  return { seconds: (performance.now() - begun) / 1000, megabytes: most };
}

const median = (values: number[]): number => values.sort((a, b) => a - b)[values.length >> 1];

/** How fast sound and tables are written, and in how much memory. */
export async function benchExporting(): Promise<BenchRow[]> {
  const folder = mkdtempSync(path.join(tmpdir(), 'ordle-bench-'));
  try {
    writeFileSync(path.join(folder, 'three.mid'), piece(3));
    writeFileSync(path.join(folder, 'ten.mid'), piece(10));
    // The first call builds the command line where that is stale.
    await run(['export', 'three.mid', '--to', 'mid', '--out', 'x.mid'], folder);
    const [mixes, parts]: [number[], number[]] = [[], []];
    for (let turn = 0; turn < 3; turn++) {
      const wav = ['export', 'three.mid', '--to', 'wav', '--overwrite', '--out'];
      mixes.push((await run([...wav, 'mix.wav'], folder)).seconds);
      parts.push((await run([...wav, 'parts.zip', '--stems'], folder)).seconds);
    }
    const [mix, apart] = [median(mixes), median(parts)];
    const ten = await run(['export', 'ten.mid', '--to', 'wav', '--out', 'ten.wav'], folder);
    const tenApart = await run(['export', 'ten.mid', '--to', 'wav', '--stems', '--out', 'ten.zip'], folder);
    const memory = Math.max(ten.megabytes, tenApart.megabytes);
    const table = await secondsOfTable();
    return [
      {
        work: 'three minutes of five parts as WAV',
        ours: `${mix.toFixed(1)} s`,
        peer: `${(180 / mix).toFixed(0)} times real time`,
        reach: '10 times',
        met: 180 / mix >= 10,
      },
      {
        work: 'the same as a file a part, in a zip',
        ours: `${apart.toFixed(1)} s`,
        peer: `${(apart / mix).toFixed(2)} times the mix`,
        reach: 'under 2',
        met: apart < 2 * mix,
      },
      {
        work: 'ten minutes of them, the most memory',
        ours: `${memory.toFixed(0)} MB`,
        peer: `in ${ten.seconds.toFixed(0)} and ${tenApart.seconds.toFixed(0)} s`,
        reach: '300 MB',
        met: memory > 0 && memory < 300,
      },
      {
        work: '100,000 notes as CSV',
        ours: `${(1000 * table).toFixed(0)} ms`,
        peer: '',
        reach: '1 s',
        met: table < 1,
      },
    ];
  } finally {
    rmSync(folder, { recursive: true, force: true });
  }
}

async function secondsOfTable(): Promise<number> {
  const notes = Array.from({ length: 100_000 }, (_, at): PlainNote => [
    at * 60 + (at % 17),
    at * 60 + 55,
    36 + (at % 60),
    1 + (at % 127),
  ]);
  const source = sourceOf(fileOfNotes(notes));
  const begun = performance.now();
  const plan = planExport(source, choiceOf(source, [{ format: 'csv', options: {} }]));
  let bytes = 0;
  for await (const piece of writeExport(plan, workshop)) bytes += piece.length;
  if (bytes < 100_000 * 40) throw new Error('The table is cut short.');
  return (performance.now() - begun) / 1000;
}
