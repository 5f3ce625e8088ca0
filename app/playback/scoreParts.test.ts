import { createEventBuilder, orderedOf, sessionOfFile, listOf, type MidiTrack } from '@ordle/core';
import { bothWays, loudnessOf, playback } from '../../sound/testing/sound';
import { scoreParts } from './scoreParts';

/** A track whose part sounds as an organ does. */
function track(name: string, channel: number): MidiTrack {
  const builder = createEventBuilder(4);
  builder.add(0, 0xff, 3, 0, new TextEncoder().encode(name));
  builder.add(0, 0xc0 | channel, 16, 0);
  builder.add(0, 0x90 | channel, 60, 90);
  builder.add(960, 0x80 | channel, 60, 64);
  return { events: builder.build(), endTick: 960 };
}

const TUNES = {
  high: playback([[0, 3, 76, 100]], [[0, 0xb0, 11, 110]]),
  low: playback([[0.2, 3, 52, 100]], [[0, 0xb0, 11, 40]]),
};

/** A session of two parts, and what they play, in an order of its list. */
function session(names: readonly ('high' | 'low')[]) {
  let next = 0;
  const file = {
    format: 1 as const,
    division: { kind: 'metrical' as const, ticksPerQuarter: 480 },
    tracks: [track('high', 0), track('low', 1)],
  };
  const { session: plain } = sessionOfFile(file, 'Quay', () => `id${next++}`, 0);
  const parts = names.map((name) => {
    const part = listOf(plain.parts).find((each) => each.name === name);
    if (!part) throw new Error(`no part ${name}`);
    return part;
  });
  return { session: { ...plain, parts: orderedOf(parts) }, playbacks: names.map((name) => TUNES[name]) };
}

const scoreIn = (names: readonly ('high' | 'low')[]) => {
  const { session: document, playbacks } = session(names);
  return {
    parts: scoreParts(document, playbacks),
    end: 4,
    clickTimes: new Float64Array(0),
    clickAccents: new Uint8Array(0),
  };
};

it('parts put elsewhere in the list while the music plays are heard as if nothing had been done', async () => {
  const [listed, turned] = [scoreIn(['high', 'low']), scoreIn(['low', 'high'])];
  const reordered = (await bothWays(listed, turned, 0.9, 2)).changed;
  const left = (await bothWays(listed, listed, 0.9, 2)).changed;
  expect(loudnessOf(left)).toBeGreaterThan(0.001);
  const farthest = reordered.reduce((most, sample, at) => Math.max(most, Math.abs(sample - left[at])), 0);
  expect(farthest).toBeLessThan(1e-6);
});

it('a solo leaves the others silent, and mute one', () => {
  const { session: document, playbacks } = session(['high', 'low']);
  const [first, second] = listOf(document.parts);
  const heard = (change: object) =>
    scoreParts({ ...document, parts: orderedOf([{ ...first, ...change }, second]) }, playbacks)
      .filter(({ audible }) => audible)
      .map(({ playback: { notePitch } }) => notePitch[0]);
  expect(heard({}).sort()).toEqual([52, 76]);
  expect(heard({ soloed: true })).toEqual([76]);
  expect(heard({ muted: true })).toEqual([52]);
});
