import type { Score } from '@ordle/core';
import { createRandom } from '../tempo/random';

/** How a score is played. */
export interface Manner {
  /** How far the tempo wanders: standard deviation of its logarithm. */
  rubato: number;
  /** Scatter of a stroke, in ms; chords are rolled by up to so many more. */
  scatterMs: number;
  rollMs: number;
  /** Shares of the notes. */
  missing: number;
  wrong: number;
  extra: number;
  /** Whether a stretch is played twice and a bar is left out. */
  jumps: boolean;
}

/** A performance whose written notes are known. */
export interface Performance {
  seconds: Float64Array;
  pitch: Uint8Array;
  /** Row of the score of each played note; -1: it is written nowhere. */
  written: Int32Array;
  /** Whether it has the written pitch. */
  isRight: Uint8Array;
  /** Rows of the score that were left out by accident. */
  missing: number[];
  jumps: { from: number; to: number }[];
  /** Seconds of each quarter of the music as it was played. */
  beats: number[];
}

/** Plays a score with human faults, the same each time for the same seed. */
export function perform(score: Score, manner: Manner, seed: number): Performance {
  const random = createRandom(seed);
  const { order, jumps } = orderOf(score, manner.jumps, random.next);
  /** Seconds of a quarter at the tempo that is meant. */
  const meant = 0.4 + 0.35 * random.next();
  let tempo = 0;
  let [time, now] = [0.8, 0];
  const played: { seconds: number; pitch: number; written: number; isRight: boolean }[] = [];
  const missing: number[] = [];
  const beats: number[] = [];
  // In sixteenths, at each of which the tempo wanders.
  const secondsOf: { at: number; seconds: number }[] = [];
  let unrolled = 0;
  for (const bar of order) {
    const [from, to] = [score.bars[bar], score.bars[bar + 1]];
    const startOfBar = unrolled;
    while (now < startOfBar + (to - from) - 1e-9) {
      secondsOf.push({ at: now, seconds: time });
      if (Math.abs(now - Math.round(now)) < 1e-9) beats.push(time);
      tempo += manner.rubato * 0.35 * random.normal() - 0.08 * tempo;
      const step = Math.min(0.25, startOfBar + (to - from) - now);
      time += meant * Math.exp(Math.max(-0.7, Math.min(0.7, tempo))) * step;
      now += step;
    }
    secondsOf.push({ at: now, seconds: time });
    const when = (place: number) => {
      let index = secondsOf.length - 2;
      while (index > 0 && secondsOf[index].at > place) index--;
      const [a, b] = [secondsOf[index], secondsOf[index + 1]];
      return a.seconds + (b.at > a.at ? ((place - a.at) / (b.at - a.at)) * (b.seconds - a.seconds) : 0);
    };
    let [chord, roll, up] = [-1, 0, 0];
    for (let row = 0; row < score.length; row++) {
      if (score.at[row] < from - 1e-6 || score.at[row] >= to - 1e-6) continue;
      if (chord < 0 || Math.abs(score.at[row] - score.at[chord]) > 1e-6) {
        [chord, up] = [row, 0];
        roll = random.next() < 0.15 ? (manner.rollMs / 1000) * random.next() : 0;
      }
      const at = when(startOfBar + score.at[row] - from);
      const seconds = Math.max(0, at + (manner.scatterMs / 1000) * random.normal() + roll * up++ * 0.3);
      const chance = random.next();
      if (chance < manner.missing) {
        missing.push(row);
        continue;
      }
      if (chance < manner.missing + manner.wrong) {
        const off = [1, -1, 2, -2, 12, -12][Math.floor(random.next() * 6)];
        const pitch = Math.min(127, Math.max(0, score.pitch[row] + off));
        played.push({ seconds, pitch, written: row, isRight: false });
      } else played.push({ seconds, pitch: score.pitch[row], written: row, isRight: true });
      if (random.next() < manner.extra)
        played.push({
          seconds: Math.max(0, seconds + 0.3 * (random.next() - 0.5)),
          pitch: Math.min(127, Math.max(0, score.pitch[row] + Math.floor(random.next() * 15) - 7)),
          written: -1,
          isRight: false,
        });
    }
    unrolled += to - from;
  }
  played.sort((a, b) => a.seconds - b.seconds || a.pitch - b.pitch);
  return {
    seconds: Float64Array.from(played, (note) => note.seconds),
    pitch: Uint8Array.from(played, (note) => note.pitch),
    written: Int32Array.from(played, (note) => note.written),
    isRight: Uint8Array.from(played, (note) => (note.isRight ? 1 : 0)),
    missing,
    jumps,
    beats,
  };
}

/** Bars as they are played: all, or with some of them twice and one left out. */
function orderOf({ bars }: Score, hasJumps: boolean, next: () => number) {
  const count = bars.length - 1;
  const straight = Array.from({ length: count }, (_, bar) => bar);
  if (!hasJumps || count < 12) return { order: straight, jumps: [] };
  const first = 1 + Math.floor(next() * (count / 3));
  const length = 2 + Math.floor(next() * 6);
  const again = Math.min(count - 4, first + length);
  const left = again + 2 + Math.floor(next() * (count - again - 3));
  const order = [...straight.slice(0, again), ...straight.slice(first, left), ...straight.slice(left + 1)];
  const jumps = [
    { from: again - 1, to: first },
    ...(left + 1 < count ? [{ from: left - 1, to: left + 1 }] : []),
  ];
  return { order, jumps };
}
