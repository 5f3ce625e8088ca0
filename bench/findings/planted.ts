import {
  createEventBuilder,
  fileFindings,
  readMidi,
  writeMidi,
  type FindingKind,
  type MidiFile,
} from '@ordle/core';
import { perform, type PlayedNote, type WrittenNote } from '../../demo/human';
import * as ferry from '../../demo/music/ferry';
import * as tide from '../../demo/music/tide';
import { randomSource } from '../../demo/random';

/** 480 ticks a quarter at 120 bpm, so that a second is 960 ticks whatever tempo is played. */
const TICKS_A_SECOND = 960;
const ticks = (seconds: number) => Math.round(seconds * TICKS_A_SECOND);

/** Faults of notes that are planted, and faults of whole parts. */
const NOTE_FAULTS = ['double-strike', 'stuck-note', 'specks', 'wrong-note', 'overlap'] as const;
const PART_FAULTS = [
  'pedal-left-down',
  'stray-sysex',
  'controller-flood',
  'late-lead-in',
  'beyond-end',
] as const;

interface Piece {
  name: string;
  bpm: number;
  channel: number;
  program: number;
  written: WrittenNote[];
}

const PIECES: Piece[] = [
  { name: 'marimba', bpm: 104, channel: 0, program: 12, written: ferry.marimba() },
  { name: 'upright bass', bpm: 104, channel: 1, program: 32, written: ferry.uprightBass() },
  {
    name: 'brush kit',
    bpm: 104,
    channel: 9,
    program: 0,
    written: [...ferry.brushKitLow(), ...ferry.brushKitHigh()],
  },
  { name: 'reed organ', bpm: 104, channel: 2, program: 20, written: ferry.reedOrgan() },
  { name: 'tin whistle', bpm: 104, channel: 3, program: 78, written: ferry.tinWhistle() },
  { name: 'fog signal', bpm: 71, channel: 4, program: 0, written: ferry.fogSignal() },
  { name: 'music box', bpm: 96, channel: 5, program: 10, written: tide.musicBox() },
  { name: 'cello', bpm: 96, channel: 6, program: 42, written: tide.cello() },
  { name: 'hands', bpm: 96, channel: 7, program: 0, written: tide.hands() },
];

/** A fault that was planted: of a note, by its start and pitch, or of the part. */
interface Planted {
  kind: FindingKind;
  tick: number | null;
  pitch: number | null;
}

/** A performance of a piece with faults at known places. */
export function planted(piece: Piece, seed: number): { file: MidiFile; faults: Planted[] } {
  const random = randomSource(seed);
  const isDrums = piece.channel === 9;
  const between = (low: number, high: number) => low + (high - low) * random();
  const played = perform(piece.written, piece.bpm, {
    seed,
    driftMs: between(6, 20),
    scatterMs: between(4, 16),
    dragMs: between(-12, 20),
    rollMs: between(6, 20),
    velocity: between(4, 10),
    doubleStrike: 0.02,
    doubleMs: isDrums ? [4, 11] : [10, 32],
  });
  const faults: Planted[] = [];
  const tell = (kind: FindingKind, note: PlayedNote) =>
    faults.push({ kind, tick: ticks(note.start), pitch: note.pitch });
  for (const note of played) if (note.isDouble) tell('double-strike', note);
  const notes = [...played];
  const add = (kind: FindingKind, note: PlayedNote) => {
    notes.push(note);
    tell(kind, note);
  };
  const last = played.reduce((latest, { end }) => Math.max(latest, end), 0);
  const somewhere = () => played[Math.floor(random() * played.length)];
  if (!isDrums) {
    for (let at = 0; at < 3; at++) {
      // Brushed as a finger lands: a short, soft neighbour of a note that lasts.
      const meant = somewhere();
      if (meant.end - meant.start > 0.16 && !meant.isDouble)
        add('wrong-note', {
          start: meant.start + between(-0.02, 0.03),
          end: meant.start + 0.03 + between(0.02, 0.03),
          pitch: meant.pitch + (random() < 0.5 ? 1 : -1),
          velocity: Math.max(14, Math.round(meant.velocity * between(0.3, 0.6))),
        });
      const free = between(1, last - 1);
      add('specks', { start: free, end: free + between(0.008, 0.025), pitch: 30 + at, velocity: 3 + at });
    }
    // Never let go, and its key not struck again, which would have let go of it.
    const untilEnd = (note: PlayedNote) => Math.min(last, note.start + 20);
    const held = played.find(
      (note) =>
        !note.isDouble &&
        note.start > last * between(0.1, 0.5) &&
        untilEnd(note) - note.start > 9 &&
        notes.every(
          ({ start, pitch }) => pitch !== note.pitch || start <= note.start || start > untilEnd(note),
        ),
    );
    if (held) {
      held.end = untilEnd(held);
      tell('stuck-note', held);
    }
  }
  return { file: fileOf(piece, notes, last, random, faults), faults };
}

/** A key is let go of before it is struck again. */
function letGo(notes: readonly PlayedNote[]) {
  const next = new Map<number, number>();
  for (const note of [...notes].sort((a, b) => b.start - a.start)) {
    note.end = Math.max(note.start + 0.002, Math.min(note.end, (next.get(note.pitch) ?? Infinity) - 0.003));
    next.set(note.pitch, note.start);
  }
}

function fileOf(
  { channel, program }: Piece,
  notes: readonly PlayedNote[],
  last: number,
  random: () => number,
  faults: Planted[],
): MidiFile {
  const lead = random() < 0.3 ? 5 : 0;
  const raw: [tick: number, status: number, a: number, b: number, payload?: Uint8Array][] = [
    [0, 0xc0 | channel, program, 0],
  ];
  const part = (kind: FindingKind) => faults.push({ kind, tick: null, pitch: null });
  letGo(notes);
  for (const fault of faults) if (fault.tick !== null) fault.tick += ticks(lead);
  for (const { start, end, pitch, velocity } of notes) {
    const from = ticks(lead + Math.max(0, start));
    raw.push([from, 0x90 | channel, pitch, velocity]);
    raw.push([Math.max(from + 1, ticks(lead + end)), 0x80 | channel, pitch, 64]);
  }
  // More than a bar of two seconds: planted, or so in the music.
  const first = notes.reduce((least, { start }) => Math.min(least, start), Infinity);
  if (lead + first > 2) part('late-lead-in');
  if (random() < 0.4) {
    raw.push([ticks(lead + last * 0.8), 0xb0 | channel, 64, 127]);
    part('pedal-left-down');
  }
  if (random() < 0.3) {
    raw.push([0, 0xf0, 0, 0, Uint8Array.of(0x41, 0x10, 0x42, 0xf7)]);
    part('stray-sysex');
  }
  if (random() < 0.3) {
    for (let at = 0; at < 300; at++) raw.push([ticks(lead + 2) + at * 4, 0xb0 | channel, 1, 40 + (at % 60)]);
    part('controller-flood');
  }
  if (random() < 0.3 && channel !== 9) {
    const late = ticks(lead + last + 40);
    raw.push([late, 0x90 | channel, 60, 70], [late + 300, 0x80 | channel, 60, 64]);
    faults.push({ kind: 'beyond-end', tick: late, pitch: 60 });
  }
  raw.sort((a, b) => a[0] - b[0] || (a[1] & 0xf0) - (b[1] & 0xf0));
  const builder = createEventBuilder(raw.length);
  for (const [tick, status, a, b, payload] of raw) builder.add(tick, status, a, b, payload);
  const events = builder.build();
  return {
    format: 0,
    division: { kind: 'metrical', ticksPerQuarter: 480 },
    tracks: [{ events, endTick: raw[raw.length - 1][0] }],
  };
}

export interface Tally {
  planted: number;
  found: number;
  falseAlarms: number;
}

/**
 * How many of the planted faults are found, and how much else, by kind: over every piece, `seeds` performances each.
 */
export function tallyOfPlanted(seeds: number): Map<FindingKind, Tally> {
  const tallies = new Map<FindingKind, Tally>();
  const tallyOf = (kind: FindingKind) => {
    const tally = tallies.get(kind) ?? { planted: 0, found: 0, falseAlarms: 0 };
    tallies.set(kind, tally);
    return tally;
  };
  for (const kind of [...NOTE_FAULTS, ...PART_FAULTS]) tallyOf(kind);
  PIECES.forEach((piece, at) => {
    for (let seed = 1; seed <= seeds; seed++) {
      const { file, faults } = planted(piece, 1000 * at + seed);
      const findings = fileFindings(readMidi(writeMidi(file)).file).findings;
      const matched = new Set<number>();
      for (const fault of faults) {
        const tally = tallyOf(fault.kind);
        tally.planted++;
        const hit = findings.findIndex(
          ({ kind, notes }, index) =>
            !matched.has(index) &&
            kind === fault.kind &&
            (fault.tick === null ||
              notes.some(
                ({ tick, pitch }) => Math.abs(tick - (fault.tick ?? 0)) <= 1 && pitch === fault.pitch,
              )),
        );
        if (hit < 0) continue;
        matched.add(hit);
        tally.found++;
      }
      findings.forEach(({ kind }, index) => {
        if (!matched.has(index)) tallyOf(kind).falseAlarms++;
      });
    }
  });
  return tallies;
}

/** Found of planted, and found of all that was told. */
export function ratesOf(tallies: Iterable<Tally>): { recall: number; precision: number } {
  let [planted, found, falseAlarms] = [0, 0, 0];
  for (const tally of tallies) {
    planted += tally.planted;
    found += tally.found;
    falseAlarms += tally.falseAlarms;
  }
  return { recall: found / planted, precision: found / (found + falseAlarms) };
}
