import { createEventBuilder, type MidiFile } from '@ordle/core';
import { randomSource } from '../demo/random';

/** A made-up performance of `notes` notes for measuring: sixteenths with jitter, chords, controllers between. Deterministic. */
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

/** A controller moved as a foot does: a slow swell with a small tremble, `points` points every other tick, and a few notes. */
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
