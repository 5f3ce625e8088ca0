import { createEventBuilder, type MidiFile } from '@ordle/core';
import { randomSource } from '../demo/random';

/**
 * A made-up performance of `notes` notes for measuring: sixteenths with jitter, chords, controllers between.
 * Deterministic.
 */
export function largeFile(notes: number, withControllers = true): MidiFile {
  const builder = createEventBuilder(notes * 2 + 100);
  const random = randomSource(7);
  let tick = 0;
  const open: { end: number; pitch: number }[] = [];
  const flush = (until: number) => {
    open.sort((a, b) => a.end - b.end);
    while (open.length > 0 && open[0].end <= until) {
      const { end, pitch } = open.shift() ?? { end: 0, pitch: 0 };
      builder.add(end, 0x80, pitch, 64);
    }
  };
  for (let note = 0; note < notes; note++) {
    if (note % 3 === 0) tick += 240 + Math.floor(random() * 21 - 10);
    const pitch = 36 + Math.floor(random() * 60);
    flush(tick);
    if (open.every((other) => other.pitch !== pitch)) {
      builder.add(tick, 0x90, pitch, 30 + Math.floor(random() * 90));
      open.push({ end: tick + 60 + Math.floor(random() * 160), pitch });
    } else note--;
    if (withControllers && note % 50 === 0) builder.add(tick, 0xb0, 64, note % 100 === 0 ? 127 : 0);
  }
  flush(Infinity);
  return {
    format: 0,
    division: { kind: 'metrical', ticksPerQuarter: 960 },
    tracks: [{ events: builder.build(), endTick: tick + 960 }],
  };
}

/**
 * A controller moved as a foot does: a slow swell with a small tremble, `points` points every other tick, and a few
 * notes.
 */
export function largeLane(points: number): MidiFile {
  const builder = createEventBuilder(points + 16);
  builder.add(0, 0x90, 60, 90);
  for (let row = 0; row < points; row++)
    builder.add(row * 2, 0xb0, 11, Math.round(64 + 50 * Math.sin(row / 300) + 4 * Math.sin(row / 7)));
  builder.add(points * 2, 0x80, 60, 64);
  return {
    format: 0,
    division: { kind: 'metrical', ticksPerQuarter: 960 },
    tracks: [{ events: builder.build(), endTick: points * 2 }],
  };
}

/**
 * A file of several tracks at 480 ticks a quarter, each with `notes` strokes spread over `ticks`, a channel and
 * pitches of its own; another `seed` is another performance of the same strokes.
 */
export function strokesFile(tracks: number, notes: number, ticks: number, seed: number): MidiFile {
  const random = randomSource(100 + seed);
  const performance = (track: number) => {
    const strokes = randomSource(track + 1);
    const events: [tick: number, status: number, pitch: number, velocity: number][] = [];
    for (let note = 0; note < notes; note++) {
      const at = Math.floor((note * ticks) / notes + random() * 24);
      const pitch = 40 + Math.floor(strokes() * 40);
      const length = Math.floor(ticks / notes / 2 + strokes() * 20);
      events.push([at, 0x90 | (track % 9), pitch, 40 + Math.floor(random() * 60)]);
      events.push([at + length, 0x80 | (track % 9), pitch, 64]);
    }
    // Releases before strokes where both are at one tick.
    events.sort((a, b) => a[0] - b[0] || (a[1] & 0xf0) - (b[1] & 0xf0));
    const builder = createEventBuilder(events.length);
    for (const event of events) builder.add(...event);
    return { events: builder.build(), endTick: ticks };
  };
  return {
    format: 1,
    division: { kind: 'metrical', ticksPerQuarter: 480 },
    tracks: [
      { events: createEventBuilder().build(), endTick: 0 },
      ...Array.from({ length: tracks }, (_, track) => performance(track)),
    ],
  };
}
