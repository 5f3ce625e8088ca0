import { noteTableOf, type Note } from '@ordle/core';
import { createRandom, type Random } from './random';

/** How the music is laid out under the melody. */
export const TEXTURES = [
  'block chords',
  'oom-pah',
  'broken chords',
  'sparse',
  'chorale',
  'walking bass',
] as const;
export type Texture = (typeof TEXTURES)[number];
export const TEMPOS = ['steady', 'drifting', 'rubato'] as const;
export type TempoKind = (typeof TEMPOS)[number];
export const METERS = ['2/4', '3/4', '4/4', '6/8'] as const;
export type Meter = (typeof METERS)[number];

export interface PerformanceOptions {
  texture: Texture;
  tempo: TempoKind;
  meter: Meter;
  bpm: number;
  drums: boolean;
  seed: number;
  /** How long it is about, in seconds. */
  seconds: number;
}

export interface Performance {
  /** At 120 bpm and 960 ticks a quarter: a second is 1,920 ticks. */
  notes: ReturnType<typeof noteTableOf>;
  /** Where the beats were meant, in seconds, and which of them begin bars. */
  beats: Float64Array;
  downbeats: Float64Array;
  bpm: number;
}

export const TICKS_PER_SECOND = 1920;

/** A note as written: places in beats. */
interface Written {
  at: number;
  length: number;
  pitch: number;
  velocity: number;
  drum?: boolean;
}

const SCALE = [0, 2, 4, 5, 7, 9, 11];
/** Chords by the degree they stand on, as pieces go: mostly one a bar. */
const PROGRESSIONS = [
  [0, 3, 4, 0],
  [0, 5, 3, 4],
  [0, 4, 5, 3],
  [0, 1, 4, 0, 3, 1, 4, 4],
  [5, 3, 0, 4],
];

/**
 * Written music played with human faults: meant beats, and notes that miss them a little. The same for the same
 * options.
 */
export function perform(options: PerformanceOptions): Performance {
  const random = createRandom(options.seed);
  const { beatsPerBar, ternary } = shapeOf(options.meter);
  const bars = Math.max(4, Math.round((options.seconds * options.bpm) / 60 / beatsPerBar));
  const written = write(options, bars, random);
  const beats = timesOf(options, bars * beatsPerBar + 1, random);
  const timeAt = (place: number) => {
    const beat = Math.min(beats.length - 2, Math.floor(place));
    return beats[beat] + (place - beat) * (beats[beat + 1] - beats[beat]);
  };
  const scatter = 0.006 + 0.006 * random.next();
  const notes = written
    .filter(() => random.next() > 0.015)
    .map(({ at, length, pitch, velocity, drum }): Note => {
      const start = Math.max(0, timeAt(at) + scatter * random.normal());
      const end = Math.max(start + 0.04, timeAt(Math.min(beats.length - 1, at + length)) - 0.01);
      return {
        id: 0,
        start: start * TICKS_PER_SECOND,
        end: end * TICKS_PER_SECOND,
        pitch,
        velocity: Math.max(1, Math.min(127, Math.round(velocity + 7 * random.normal()))),
        release: 64,
        channel: drum ? 9 : 0,
      };
    })
    .sort((a, b) => a.start - b.start)
    .map((note, id) => ({ ...note, id }));
  const meant = Float64Array.from(beats.subarray(0, bars * beatsPerBar));
  return {
    notes: noteTableOf(notes),
    beats: meant,
    downbeats: meant.filter((_, beat) => beat % beatsPerBar === 0),
    bpm: ternary ? options.bpm : options.bpm,
  };
}

const shapeOf = (meter: Meter) =>
  meter === '6/8' ? { beatsPerBar: 2, ternary: true } : { beatsPerBar: Number(meter[0]), ternary: false };

/** When each beat is meant, in seconds. */
function timesOf({ tempo, bpm }: PerformanceOptions, count: number, random: Random): Float64Array {
  const times = new Float64Array(count);
  const lead = 0.2 + random.next();
  let [time, wander] = [lead, 0];
  const [slope, phase] = [(random.next() - 0.5) * 0.16, random.next() * 6.28];
  for (let beat = 0; beat < count; beat++) {
    times[beat] = time;
    let ratio = 1;
    if (tempo === 'drifting') {
      wander = 0.98 * wander + 0.004 * random.normal();
      ratio = 1 + slope * (beat / count) + 0.02 * Math.sin(phase + beat / 11) + wander;
    } else if (tempo === 'rubato') {
      wander = 0.7 * wander + 0.02 * random.normal();
      const inPhrase = beat % 16;
      // Forward in the middle of a phrase, held back at its end.
      const held = inPhrase >= 14 ? 0.16 * (inPhrase - 13) * 0.5 : 0;
      ratio =
        1 - 0.07 * Math.sin((Math.PI * inPhrase) / 14) + held + 0.04 * Math.sin(phase + beat / 7) + wander;
    }
    time += (60 / bpm) * ratio;
  }
  return times;
}

/** The music of some bars. */
function write({ texture, meter, drums }: PerformanceOptions, bars: number, random: Random): Written[] {
  const { beatsPerBar, ternary } = shapeOf(meter);
  const key = Math.floor(random.next() * 12);
  const progression = PROGRESSIONS[Math.floor(random.next() * PROGRESSIONS.length)];
  const written: Written[] = [];
  const put = (at: number, length: number, pitch: number, velocity: number) =>
    written.push({ at, length, pitch, velocity });
  const degree = (step: number, base: number) =>
    base + key + SCALE[((step % 7) + 7) % 7] + 12 * Math.floor(step / 7);
  const third = 1 / 3;
  let step = 7;
  for (let bar = 0; bar < bars; bar++) {
    const begin = bar * beatsPerBar;
    const root = progression[bar % progression.length];
    const chord = [root, root + 2, root + 4];
    const accent = (beat: number) => (beat === 0 ? 14 : 0);
    for (let beat = 0; beat < beatsPerBar; beat++) {
      const at = begin + beat;
      const strong = 62 + accent(beat);
      if (texture === 'block chords') {
        if (beat === 0 || random.next() < 0.7)
          for (const each of chord) put(at, 0.95, degree(each, 48), strong);
        if (beat === 0) put(at, beatsPerBar * 0.95, degree(root, 36), strong + 6);
      } else if (texture === 'oom-pah') {
        if (beat === 0 || (beat === 2 && beatsPerBar === 4))
          put(at, 0.9, degree(beat === 0 ? root : root + 4, 36), strong + 6);
        else for (const each of chord) put(at, 0.5, degree(each, 52), strong - 8);
        if (ternary) for (const each of chord) put(at + 2 * third, 0.3, degree(each, 52), strong - 14);
      } else if (texture === 'broken chords') {
        const parts = ternary ? 3 : random.next() < 0.3 ? 4 : 2;
        if (beat === 0) put(at, beatsPerBar * 0.95, degree(root, 36), strong + 4);
        for (let part = 0; part < parts; part++)
          put(
            at + part / parts,
            0.9 / parts,
            degree(chord[(beat * parts + part) % 3], 52),
            strong - (part === 0 ? 4 : 14),
          );
      } else if (texture === 'sparse') {
        if (beat === 0) put(at, beatsPerBar * 0.9, degree(root, 40), strong);
        else if (random.next() < 0.35) put(at, 0.9, degree(root + 4, 52), strong - 8);
      } else if (texture === 'chorale') {
        const holds = beat % 2 === 1 && random.next() < 0.4;
        if (!holds)
          for (const each of [root - 7, ...chord])
            put(at, beat % 2 === 0 ? 1.4 : 0.95, degree(each, 52), strong);
      } else {
        put(at, 0.9, degree(root + [0, 2, 4, 5][beat % 4], 36), strong);
        if (!ternary && random.next() < 0.5)
          for (const each of chord) put(at + 0.5, 0.3, degree(each, 54), strong - 12);
        if (ternary && random.next() < 0.4)
          for (const each of chord) put(at + 2 * third, 0.25, degree(each, 54), strong - 12);
      }
    }
    melody(begin, beatsPerBar, ternary);
    if (drums) drumBar(written, begin, beatsPerBar, ternary, random);
  }
  return written;

  /** A line over it in notes of mixed lengths. */
  function melody(begin: number, beatsPerBar: number, isTernary: boolean) {
    if (texture === 'chorale') return;
    const lengths = isTernary ? [1, 2 / 3, third, third * 3] : [1, 0.5, 0.5, 1.5, 2, 0.25];
    let at = random.next() < 0.8 ? 0 : 0.5;
    while (at < beatsPerBar - 1e-6) {
      let length = lengths[Math.floor(random.next() * lengths.length)];
      const unit = isTernary ? third : length === 0.25 ? 0.25 : 0.5;
      // Short notes come in pairs, so that the line comes back to the beat.
      at = Math.round(at / unit) * unit;
      length = Math.min(length, beatsPerBar - at);
      if (length <= 0) break;
      step = Math.max(4, Math.min(13, step + Math.floor(random.next() * 5) - 2));
      if (random.next() < 0.9)
        put(
          begin + at,
          length * 0.95,
          degree(step, 60),
          70 + (Math.abs(at - Math.round(at)) < 1e-6 ? 6 : -4),
        );
      at += length;
    }
  }
}

function drumBar(written: Written[], begin: number, beatsPerBar: number, ternary: boolean, random: Random) {
  const put = (at: number, pitch: number, velocity: number) =>
    written.push({ at, length: 0.1, pitch, velocity, drum: true });
  const parts = ternary ? 3 : 2;
  for (let beat = 0; beat < beatsPerBar; beat++) {
    for (let part = 0; part < parts; part++)
      if (random.next() < 0.92) put(begin + beat + part / parts, 42, part === 0 ? 62 : 48);
    const isBack = beatsPerBar === 3 ? beat > 0 : beat % 2 === 1;
    if (isBack) put(begin + beat, 38, 88);
    else put(begin + beat, 36, 96);
    if (!ternary && random.next() < 0.2) put(begin + beat + 0.5, 36, 80);
  }
}
