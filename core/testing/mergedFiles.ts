import fc from 'fast-check';
import { mergeFiles, type MergeOptions } from '../merging';
import { readMidi, writeMidi, type MidiFile } from '../midi';
import { takesOfFile } from '../model';
import type { PlainNote, RawEvent } from './files';

// 480 ticks a quarter, 4/4 at 120 bpm: a bar is 1920 ticks, a tick 1.0417 ms, 60 ms 57.6 ticks.
export const BAR = 1920;
export const LAYER: MergeOptions = { mode: 'layer', doubles: { keep: 'both', withinMs: 30 } };
export const TIGHTEST = {
  mode: 'tightest',
  grid: '1/16',
  penaltyMs: 2,
  missingMs: 0,
} satisfies MergeOptions;
export const named = (...files: MidiFile[]) => files.map((file, index) => ({ name: `${index}.mid`, file }));
export const merged = (options: MergeOptions, ...files: MidiFile[]) => mergeFiles(named(...files), options);

/** Start, end, pitch, velocity, channel of all notes, sorted, after a way through bytes. */
export const notesIn = (file: MidiFile) =>
  takesOfFile(readMidi(writeMidi(file)).file)
    .flatMap(({ notes }) =>
      Array.from(notes.start, (start, row) => [
        start,
        notes.end[row],
        notes.pitch[row],
        notes.velocity[row],
        notes.channel[row],
      ]),
    )
    .sort((a, b) => a[0] - b[0] || a[2] - b[2] || a[1] - b[1] || a[3] - b[3]);
export const controllers = (file: MidiFile, controller: number) =>
  file.tracks.flatMap(({ events }) =>
    Array.from(events.tick.keys())
      .filter((row) => (events.status[row] & 0xf0) === 0xb0 && events.data1[row] === controller)
      .map((row) => [events.tick[row], events.data2[row]]),
  );

export const pedal = (tick: number, value: number): RawEvent => [tick, 0xb0, 64, value];

/** Any notes of four bars. */
export const anyNotes = fc
  .array(
    fc.record({
      at: fc.integer({ min: 0, max: 4 * BAR }),
      length: fc.integer({ min: 1, max: 900 }),
      pitch: fc.integer({ min: 58, max: 64 }),
      velocity: fc.integer({ min: 1, max: 127 }),
    }),
    { minLength: 1, maxLength: 20 },
  )
  .map((list): PlainNote[] => {
    // No two of one pitch at once, as in what a person can play: pairing is then beyond doubt.
    const free = new Map<number, number>();
    return list
      .toSorted((a, b) => a.at - b.at)
      .flatMap(({ at, length, pitch, velocity }): PlainNote[] => {
        if ((free.get(pitch) ?? 0) > at) return [];
        free.set(pitch, at + length);
        return [[at, at + length, pitch, velocity]];
      });
  });
