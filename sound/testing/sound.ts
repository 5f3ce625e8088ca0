import { readFileSync } from 'node:fs';
import path from 'node:path';
import type { PlaybackPart } from '@ordle/core';
import type { Score } from '../player';
import { BLOCK, createRenderer } from '../renderer';

export const RATE = 44100;

/** A part to be heard: notes in seconds, events as raw MIDI without the channel. */
export function playback(
  notes: [start: number, end: number, pitch: number, velocity?: number][],
  events: [time: number, kind: number, data1: number, data2: number][] = [],
): PlaybackPart {
  return {
    noteId: Float64Array.from(notes, (_, index) => index),
    noteStart: Float64Array.from(notes, ([start]) => start),
    noteEnd: Float64Array.from(notes, ([, end]) => end),
    notePitch: Uint8Array.from(notes, ([, , pitch]) => pitch),
    noteVelocity: Uint8Array.from(notes, ([, , , velocity]) => velocity ?? 100),
    eventTime: Float64Array.from(events, ([time]) => time),
    eventKind: Uint8Array.from(events, ([, kind]) => kind),
    eventData1: Uint8Array.from(events, ([, , data1]) => data1),
    eventData2: Uint8Array.from(events, ([, , , data2]) => data2),
  };
}
/** One part as a score. */
export const scoreOf = (part: PlaybackPart, more: Partial<Score['parts'][0]> = {}): Score => ({
  parts: [{ program: 12, drums: false, audible: true, playback: part, ...more }],
  end: 10,
  clickTimes: new Float64Array(0),
  clickAccents: new Uint8Array(0),
});

/** The sounds that ship with the app. */
export function bank(): ArrayBuffer {
  const file = readFileSync(path.resolve(__dirname, '../../app/public/sounds/general-midi.sf2'));
  return file.buffer.slice(file.byteOffset, file.byteOffset + file.byteLength) as ArrayBuffer;
}

/** Renders a score and gives back one channel. */
export async function render(score: Score, seconds: number, from = 0): Promise<Float32Array> {
  const { player, render: fill } = await createRenderer(RATE, bank());
  player.setScore(score);
  player.play(from);
  const blocks = Math.ceil((seconds * RATE) / BLOCK);
  const out = new Float32Array(blocks * BLOCK);
  for (let block = 0; block < blocks; block++) {
    fill(out.subarray(block * BLOCK, (block + 1) * BLOCK), new Float32Array(BLOCK));
  }
  return out;
}

/**
 * The frequency in Hz at which a tone repeats best near an expected one, by autocorrelation with a parabola through
 * the peak.
 */
export function frequencyOf(samples: Float32Array, expected: number): number {
  const lags = { from: Math.floor(RATE / (expected * 1.2)), to: Math.ceil(RATE / (expected / 1.2)) };
  const likeness = (lag: number) => {
    let sum = 0;
    for (let index = 0; index + lag < samples.length; index++) sum += samples[index] * samples[index + lag];
    return sum / (samples.length - lag);
  };
  let [best, most] = [lags.from, -Infinity];
  for (let lag = lags.from; lag <= lags.to; lag++) {
    const value = likeness(lag);
    if (value > most) [best, most] = [lag, value];
  }
  const [before, after] = [likeness(best - 1), likeness(best + 1)];
  const shift = (before - after) / (2 * (before - 2 * most + after));
  return RATE / (best + shift);
}

/** Root mean square of some samples. */
export function loudnessOf(samples: Float32Array): number {
  let sum = 0;
  for (const sample of samples) sum += sample * sample;
  return Math.sqrt(sum / samples.length);
}

/** Seconds after which a score becomes another. */
const CHANGED = 1;

/**
 * What is heard from `from` to `to` seconds when the score becomes another after a second, and when the other was
 * started there.
 */
export async function bothWays(first: Score, next: Score, from: number, to: number) {
  const heard = async (changes: boolean) => {
    const { player, render } = await createRenderer(RATE, bank());
    player.setScore(changes ? first : next);
    const begun = changes ? 0 : CHANGED;
    player.play(begun);
    const blocks = Math.ceil(((to - begun) * RATE) / BLOCK);
    const out = new Float32Array(blocks * BLOCK);
    const at = Math.round((CHANGED * RATE) / BLOCK);
    for (let block = 0; block < blocks; block++) {
      if (changes && block === at) player.setScore(next);
      render(out.subarray(block * BLOCK, (block + 1) * BLOCK), new Float32Array(BLOCK));
    }
    return out.subarray(Math.round((from - begun) * RATE));
  };
  return { changed: await heard(true), started: await heard(false) };
}
