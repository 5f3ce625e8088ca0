import { noteTableOf, type Note } from '@ordle/core';
import { createRandom, type Random } from '../tempo/random';

/** Kinds of playing whose written places are known. */
export const KINDS = [
  'rolled chords',
  'strums',
  'drums with flams',
  'swung bass and chords',
  'melody with grace notes',
  'eighths with triplet bars',
  'running sixteenths',
] as const;
export type Kind = (typeof KINDS)[number];

export interface Written {
  /** Quarters from the start. */
  at: number;
  /** The step of the grid it stands on, in quarters. */
  step: number;
  /** Of notes that are one chord, its name; the one that is on the beat says so. */
  chord?: number;
  isAnchor: boolean;
  isGrace?: boolean;
}

export interface Made {
  kind: Kind;
  /** 960 ticks a quarter at `bpm`. */
  notes: ReturnType<typeof noteTableOf>;
  /** What each note is, by id. */
  written: Written[];
  isDrums: boolean;
  bpm: number;
  swing: number;
}

interface Draft extends Written {
  pitch: number;
  velocity: number;
  /** Quarters. */
  length: number;
  /** Ahead of or after its place on purpose, in ms. */
  offMs: number;
}

const SCALE = [0, 2, 4, 5, 7, 9, 11];
const BARS = 24;
const pitchOf = (degree: number, base: number) =>
  base + SCALE[((degree % 7) + 7) % 7] + 12 * Math.floor(degree / 7);

/** One performance, the same for the same seed. */
export function make(kind: Kind, seed: number): Made {
  const random = createRandom(1000 + 77 * seed + KINDS.indexOf(kind));
  const between = (low: number, high: number) => low + (high - low) * random.next();
  const bpm = Math.round(between(72, 132));
  const { drafts, swing } = written(kind, random, between);
  const drift = between(3, 10);
  const scatter = between(4, 11);
  const bias = between(-14, 24);
  let wander = 0;
  let lastAt = -1;
  const perQuarter = 60_000 / bpm;
  const played = drafts
    .sort((a, b) => a.at - b.at)
    .map((draft) => {
      if (draft.at !== lastAt) {
        wander = 0.94 * wander + random.normal() * drift * Math.sqrt(1 - 0.94 ** 2);
        lastAt = draft.at;
      }
      const late = bias + wander + random.normal() * (draft.chord === undefined ? scatter : 2.5);
      const ms = Math.max(0, (draft.at + 4) * perQuarter + draft.offMs + late);
      return { draft, ms, end: ms + Math.max(25, draft.length * perQuarter * between(0.86, 0.97)) };
    })
    .sort((a, b) => a.ms - b.ms);
  const ticks = (ms: number) => (ms / perQuarter) * 960;
  const isDrums = kind === 'drums with flams';
  return {
    kind,
    bpm,
    swing,
    isDrums,
    written: played.map(({ draft: { at, step, chord, isAnchor, isGrace } }) => ({
      at: at + 4,
      step,
      chord,
      isAnchor,
      isGrace,
    })),
    notes: noteTableOf(
      played.map(({ draft, ms, end }, id): Note => ({
        id,
        start: ticks(ms),
        end: ticks(end),
        pitch: draft.pitch,
        velocity: Math.round(Math.max(1, Math.min(127, draft.velocity + 5 * random.normal()))),
        release: 64,
        channel: isDrums ? 9 : 0,
      })),
    ),
  };
}

function written(
  kind: Kind,
  random: Random,
  between: (low: number, high: number) => number,
): { drafts: Draft[]; swing: number } {
  const drafts: Draft[] = [];
  let chord = 0;
  const put = (
    at: number,
    step: number,
    pitch: number,
    velocity: number,
    length: number,
    more: Partial<Draft> = {},
  ) => drafts.push({ at, step, pitch, velocity, length, offMs: 0, isAnchor: true, ...more });
  /** Notes one after the other by so many ms, one of them on the beat. */
  const rolled = (
    at: number,
    step: number,
    pitches: readonly number[],
    gapMs: number,
    anchor: 'first' | 'middle' | 'last',
    length: number,
  ) => {
    const name = chord++;
    const middle = anchor === 'first' ? 0 : anchor === 'last' ? pitches.length - 1 : (pitches.length - 1) / 2;
    pitches.forEach((pitch, at2) =>
      put(at, step, pitch, 70, length, {
        chord: name,
        offMs: (at2 - middle) * gapMs,
        isAnchor: anchor === 'middle' ? false : at2 === middle,
      }),
    );
  };
  const root = () => [0, 3, 4, 5][Math.floor(random.next() * 4)];
  const swing = kind === 'swung bass and chords' ? Math.round(between(57, 67)) : 50;
  const gap = between(9, 22);
  const strum = between(9, 15);
  const anchor = (['first', 'last', 'last'] as const)[Math.floor(random.next() * 3)];
  for (let bar = 0; bar < BARS; bar++) {
    const begin = 4 * bar;
    const degree = root();
    if (kind === 'rolled chords' || kind === 'strums') {
      for (let beat = 0; beat < 4; beat++) {
        const half = random.next() < 0.35 ? 0.5 : 0;
        const shape = kind === 'strums' ? [0, 2, 4, 7, 9, 11] : [0, 2, 4, 7];
        rolled(
          begin + beat + half,
          0.5,
          shape.map((step) => pitchOf(degree + step, 43)),
          kind === 'strums' ? strum : gap,
          kind === 'strums' ? anchor : 'first',
          half === 0 ? 0.9 : 0.45,
        );
      }
    } else if (kind === 'drums with flams') {
      for (let eighth = 0; eighth < 8; eighth++)
        if (random.next() < 0.95) put(begin + eighth / 2, 0.5, 42, eighth % 2 === 0 ? 80 : 62, 0.1);
      for (const beat of [0, 2]) put(begin + beat, 0.5, 36, 100, 0.1);
      if (random.next() < 0.4) put(begin + 2.5, 0.5, 36, 92, 0.1);
      for (const beat of [1, 3]) {
        put(begin + beat, 0.5, 38, 104, 0.1);
        if (random.next() < 0.3)
          put(begin + beat, 0.5, 38, 48, 0.08, { offMs: -between(18, 38), isGrace: true, isAnchor: false });
      }
      if (random.next() < 0.5) put(begin + 1.75, 0.25, 38, 26, 0.08);
    } else if (kind === 'swung bass and chords') {
      const late = swing / 50 - 1;
      for (let beat = 0; beat < 4; beat++) {
        put(begin + beat, 0.5, pitchOf(degree + [0, 2, 4, 5][beat], 33), 88, 0.9);
        if (random.next() < 0.6)
          put(
            begin + beat + 0.5 + late / 2,
            0.5,
            pitchOf(degree + 2 + Math.floor(random.next() * 4), 57),
            66,
            0.3,
          );
      }
    } else if (kind === 'melody with grace notes') {
      for (let eighth = 0; eighth < 8; eighth++) {
        if (random.next() < 0.2) continue;
        const pitch = pitchOf(degree + Math.floor(random.next() * 7), 60);
        put(begin + eighth / 2, 0.5, pitch, 84, 0.45);
        if (random.next() < 0.12) {
          const ahead = between(35, 80);
          put(begin + eighth / 2, 0.5, pitch - 1, 64, 0, { offMs: -ahead, isGrace: true, isAnchor: false });
        }
      }
    } else if (kind === 'eighths with triplet bars') {
      const isTriplet = bar % 6 >= 4;
      const count = isTriplet ? 12 : 8;
      for (let at = 0; at < count; at++)
        if (random.next() < 0.92)
          put(begin + (4 * at) / count, 4 / count, pitchOf(degree + at, 55), 74, 3 / count);
    } else {
      for (let at = 0; at < 16; at++)
        if (random.next() < 0.9)
          put(begin + at / 4, 0.25, pitchOf(degree + [0, 2, 4, 7][at % 4], 55), at % 4 === 0 ? 84 : 68, 0.22);
    }
  }
  return { drafts, swing };
}
