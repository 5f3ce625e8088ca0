import { mkdirSync, readdirSync, rmSync, writeFileSync } from 'node:fs';
import path from 'node:path';
import {
  META,
  META_MARKER,
  META_TEMPO,
  META_TIME_SIGNATURE,
  META_TRACK_NAME,
  createEventBuilder,
  encodeText,
  microsecondsOf,
  pickEvents,
  writeMidi,
  type MidiTrack,
} from '@ordle/core';
import { perform, type Faults, type PlayedNote, type WrittenNote } from './human';
import { pedalling, swell, whistleBends } from './moves';
import * as ferry from './music/ferry';
import * as tide from './music/tide';
import { scoreOfMusic } from './scores';

/**
 * Makes the demo performances: written-out music, played by a model of human faults, saved as ordinary MIDI files.
 * The same files every time. Run with `npm run demo:generate`; the results are committed.
 */
const FOLDER = path.resolve('app/public/demo');
const TICKS_PER_QUARTER = 480;

interface Performance {
  file: string;
  name: string;
  channel: number;
  program: number;
  bpm: number;
  meter: [number, number];
  played: PlayedNote[];
  /** Controllers and bends by seconds: status kind, data. */
  moves?: [second: number, kind: number, data1: number, data2: number][];
  /** Pitches whose last release is forgotten. */
  stuck?: number[];
  /** Names of what begins at a bar. */
  markers?: [bar: number, name: string][];
}

function save(performance: Performance) {
  const tick = (second: number) =>
    Math.max(0, Math.round((second * performance.bpm * TICKS_PER_QUARTER) / 60));
  const last = performance.played.reduce((latest, note) => Math.max(latest, note.end), 0);
  const endTick = Math.ceil(tick(last) / (TICKS_PER_QUARTER * 4)) * TICKS_PER_QUARTER * 4;
  const conductor = createEventBuilder();
  const tempo = microsecondsOf(performance.bpm);
  conductor.add(
    0,
    META,
    META_TIME_SIGNATURE,
    0,
    Uint8Array.from([performance.meter[0], Math.log2(performance.meter[1]), 24, 8]),
  );
  conductor.add(0, META, META_TEMPO, 0, Uint8Array.from([tempo >> 16, (tempo >> 8) & 255, tempo & 255]));
  const barTicks = (TICKS_PER_QUARTER * 4 * performance.meter[0]) / performance.meter[1];
  const markers = performance.markers ?? [];
  for (const [bar, name] of markers)
    conductor.add((bar - 1) * barTicks, META, META_MARKER, 0, encodeText(name));
  const lastMarker = markers.reduce((latest, [bar]) => Math.max(latest, (bar - 1) * barTicks), 0);
  const bytes = writeMidi({
    format: 1,
    division: { kind: 'metrical', ticksPerQuarter: TICKS_PER_QUARTER },
    tracks: [{ events: conductor.build(), endTick: lastMarker }, trackOf(performance, tick, endTick)],
  });
  writeFileSync(path.join(FOLDER, performance.file), bytes);
}

function trackOf(performance: Performance, tick: (second: number) => number, endTick: number): MidiTrack {
  const channel = performance.channel - 1;
  const builder = createEventBuilder();
  const rank: number[] = [];
  const add = (
    order: number,
    at: number,
    status: number,
    data1: number,
    data2: number,
    payload?: Uint8Array,
  ) => {
    builder.add(at, status, data1, data2, payload);
    rank.push(order);
  };
  add(0, 0, META, META_TRACK_NAME, 0, encodeText(performance.name));
  if (channel !== 9) add(1, 0, 0xc0 | channel, performance.program, 0);
  for (const [second, kind, data1, data2] of performance.moves ?? [])
    add(3, tick(second), kind | channel, data1, data2);
  const stuck = new Set(performance.stuck ?? []);
  performance.played.forEach((note, index) => {
    const start = tick(note.start);
    const last = !performance.played.slice(index + 1).some((other) => other.pitch === note.pitch);
    add(4, start, 0x90 | channel, note.pitch, note.velocity);
    // A struck key is released before it is struck again.
    const next = performance.played.find((other) => other.pitch === note.pitch && other.start > note.start);
    const end = Math.max(start + 1, Math.min(tick(note.end), next ? tick(next.start) : Infinity));
    if (!(last && stuck.has(note.pitch))) add(2, end, 0x80 | channel, note.pitch, 64);
  });
  const events = builder.build();
  const rows = Array.from({ length: events.length }, (_, row) => row).sort(
    (a, b) => events.tick[a] - events.tick[b] || rank[a] - rank[b] || a - b,
  );
  const sorted = pickEvents(events, rows);
  return { events: sorted, endTick: Math.max(endTick, sorted.tick[sorted.length - 1]) };
}

const FERRY = { bpm: ferry.FERRY_BPM, meter: [4, 4] as [number, number] };
const TIDE = { bpm: tide.TIDE_BPM, meter: [6, 8] as [number, number] };
const barSeconds = (60 / FERRY.bpm) * 4;
const play = (written: WrittenNote[], faults: Faults, bpm = FERRY.bpm) => perform(written, bpm, faults);

function generate() {
  mkdirSync(FOLDER, { recursive: true });
  for (const name of readdirSync(FOLDER)) if (/\.(mid|musicxml)$/.test(name)) rmSync(path.join(FOLDER, name));
  const marimba = { name: 'Marimba', channel: 1, program: 12, ...FERRY };
  save({
    ...marimba,
    file: 'ferry-marimba-take-1.mid',
    markers: [
      [1, 'Quay'],
      [9, 'Open water'],
      [17, 'Landing'],
    ],
    played: play(ferry.marimba(), {
      seed: 11,
      driftMs: 12,
      scatterMs: 9,
      rollMs: 14,
      velocity: 6,
      miss: 0.01,
    }),
  });
  save({
    ...marimba,
    file: 'ferry-marimba-take-2.mid',
    played: play(ferry.marimba(), {
      seed: 12,
      driftMs: 18,
      scatterMs: 15,
      dragMs: 9,
      rollMs: 18,
      velocity: 9,
      miss: 0.02,
      doubleStrike: 0.02,
    }),
  });
  save({
    ...marimba,
    file: 'ferry-marimba-take-3.mid',
    played: play(ferry.marimba(), {
      seed: 13,
      driftMs: 26,
      scatterMs: 20,
      dragMs: -11,
      rollMs: 22,
      velocity: 12,
      miss: 0.03,
      doubleStrike: 0.03,
    }),
    stuck: [74],
  });
  save({
    ...FERRY,
    file: 'ferry-upright-bass.mid',
    name: 'Upright bass',
    channel: 2,
    program: 32,
    played: play(ferry.uprightBass(), { seed: 21, driftMs: 8, scatterMs: 8, dragMs: 24, velocity: 7 }),
  });
  const kit = { name: 'Brush kit', channel: 10, program: 0, ...FERRY };
  save({
    ...kit,
    file: 'ferry-brush-kit-low.mid',
    played: play(ferry.brushKitLow(), { seed: 31, driftMs: 6, scatterMs: 5, velocity: 5 }),
  });
  save({
    ...kit,
    file: 'ferry-brush-kit-high.mid',
    played: play(ferry.brushKitHigh(), {
      seed: 32,
      driftMs: 9,
      scatterMs: 8,
      dragMs: 6,
      velocity: 8,
      doubleStrike: 0.02,
      // Sooner than a flam, which is meant.
      doubleMs: [4, 11],
    }),
  });
  save({
    ...FERRY,
    file: 'ferry-reed-organ.mid',
    name: 'Reed organ',
    channel: 3,
    program: 20,
    played: play(ferry.reedOrgan(), { seed: 41, driftMs: 10, scatterMs: 6, rollMs: 16, velocity: 5 }),
    moves: [
      ...pedalling(barSeconds, ferry.FERRY_BARS, [6, 13, 14], 42),
      ...swell(11, 64, 112, barSeconds, ferry.FERRY_BARS, 43),
    ],
  });
  const whistle = play(ferry.tinWhistle(), { seed: 51, driftMs: 14, scatterMs: 10, velocity: 8 });
  save({
    ...FERRY,
    file: 'ferry-tin-whistle.mid',
    name: 'Tin whistle',
    channel: 4,
    program: 78,
    played: whistle,
    moves: [...whistleBends(whistle), ...swell(2, 40, 104, barSeconds, ferry.FERRY_BARS, 52)],
  });
  save({
    ...FERRY,
    file: 'ferry-fog-signal.mid',
    name: 'Fog signal',
    channel: 5,
    program: 0,
    played: play(ferry.fogSignal(), { seed: 61, scatterMs: 12, rollMs: 24, velocity: 8, rubato: 0.09 }, 71),
    moves: pedalling((60 / 71) * 4, 8, [], 62),
  });
  writeFileSync(
    path.join(FOLDER, 'ferry-fog-signal.musicxml'),
    scoreOfMusic('Fog signal', ferry.fogSignal(), 71, [4, 4], { staves: 2 }),
  );
  writeFileSync(
    path.join(FOLDER, 'ferry-marimba.musicxml'),
    scoreOfMusic('Marimba', ferry.marimba(), FERRY.bpm, [4, 4]),
  );
  save({
    ...TIDE,
    file: 'tide-music-box.mid',
    name: 'Music box',
    channel: 1,
    program: 10,
    played: play(tide.musicBox(), { seed: 71, driftMs: 12, scatterMs: 12, velocity: 7 }, TIDE.bpm),
  });
  save({
    ...TIDE,
    file: 'tide-cello.mid',
    name: 'Cello',
    channel: 2,
    program: 42,
    played: play(tide.cello(), { seed: 72, driftMs: 16, scatterMs: 12, dragMs: 15, velocity: 6 }, TIDE.bpm),
    moves: swell(11, 70, 116, (60 / TIDE.bpm) * 3, tide.TIDE_BARS, 73),
  });
  save({
    ...TIDE,
    file: 'tide-hands.mid',
    name: 'Hands',
    channel: 10,
    program: 0,
    played: play(tide.hands(), { seed: 74, driftMs: 8, scatterMs: 9, velocity: 8 }, TIDE.bpm),
  });
  writeFileSync(path.join(FOLDER, 'sessions.json'), `${JSON.stringify(SESSIONS, null, 2)}\n`);
}

/** How the files make up the two demo sessions: parts, their layers, and which bars each take supplies. */
const whole = (file: string) => [[{ file, bars: null }]];
const SESSIONS = [
  {
    name: 'Ferry crossing',
    lead: 'ferry-marimba-take-1.mid',
    parts: [
      {
        name: 'Marimba',
        layers: [
          [
            { file: 'ferry-marimba-take-1.mid', bars: [1, 9] },
            { file: 'ferry-marimba-take-2.mid', bars: [9, 17] },
            { file: 'ferry-marimba-take-3.mid', bars: [17, 26] },
          ],
        ],
        muted: false,
      },
      { name: 'Upright bass', layers: whole('ferry-upright-bass.mid'), muted: false },
      {
        name: 'Brush kit',
        layers: [
          [{ file: 'ferry-brush-kit-low.mid', bars: null }],
          [{ file: 'ferry-brush-kit-high.mid', bars: null }],
        ],
        muted: false,
      },
      { name: 'Reed organ', layers: whole('ferry-reed-organ.mid'), muted: false },
      { name: 'Tin whistle', layers: whole('ferry-tin-whistle.mid'), muted: false },
      { name: 'Fog signal', layers: whole('ferry-fog-signal.mid'), muted: true },
    ],
  },
  {
    name: 'Tide table',
    lead: 'tide-music-box.mid',
    parts: [
      { name: 'Music box', layers: whole('tide-music-box.mid'), muted: false },
      { name: 'Cello', layers: whole('tide-cello.mid'), muted: false },
      { name: 'Hands', layers: whole('tide-hands.mid'), muted: false },
    ],
  },
];

generate();
