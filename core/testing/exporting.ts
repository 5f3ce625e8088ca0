import {
  SOUND_BLOCK,
  planExport,
  writeExport,
  type ExportChoice,
  type ExportSource,
  type FormatChoice,
  type Instruments,
  type MidiOptions,
  type Scratch,
} from '../exporting';
import { parseMidi, type MidiEvent } from 'midi-file';
import { createEvaluator } from '../evaluate';
import { collectSessionFile } from '../formats';
import { readMidi, writeMidi, type MidiFile } from '../midi';
import { storedPart, type Take } from '../model';
import { sessionOfFile, type Session } from '../session';
import { fileOfNotes, trackOf, type RawEvent } from './files';

/** A file opened as a session, as formats are written from it; `change` does something to the session first. */
export function sourceOf(
  file: MidiFile,
  change: (session: Session) => Session = (session) => session,
): ExportSource {
  let next = 0;
  const read = readMidi(writeMidi(file)).file;
  const { session: own, takes } = sessionOfFile(read, 'Quay', () => `id${next++}`, 0);
  const byKey = new Map(takes.map((take): [string, Take] => [take.key, take]));
  const takeOf = (key: string) => byKey.get(key) as Take;
  const session = change(own);
  return {
    session,
    takeOf,
    evaluator: createEvaluator(takeOf),
    everything: () =>
      collectSessionFile(session, { take: (key) => storedPart(takeOf(key)), table: () => null }),
  };
}

/** Room in memory. */
export function scratchInMemory(): Scratch {
  const pieces: Uint8Array[] = [];
  return {
    append: (bytes) => void pieces.push(bytes.slice()),
    chunks: () => pieces,
    drop: () => void pieces.splice(0),
  };
}

/**
 * Instruments that can be reckoned with: while a note sounds its part is at a hundredth of its velocity on the left
 * and half of that on the right, and falls by half in every hundredth of a second after its end.
 */
export const plainInstruments: Instruments = async (rate, parts) => {
  let frame = 0;
  return {
    render(outputs) {
      const [begins, ends] = [frame / rate, (frame + SOUND_BLOCK) / rate];
      parts.forEach(({ playback: { noteStart, noteEnd, noteVelocity } }, part) => {
        const [left, right] = outputs[part % outputs.length];
        // A third of a second after its end nothing of a note is left that could be told.
        const sounding = [...noteStart.keys()].filter(
          (row) => noteStart[row] < ends && noteEnd[row] + 0.33 > begins,
        );
        for (let at = 0; at < SOUND_BLOCK && sounding.length > 0; at++) {
          const second = (frame + at) / rate;
          let level = 0;
          for (const row of sounding) {
            if (second < noteStart[row]) continue;
            level += (noteVelocity[row] / 100) * 0.5 ** (100 * Math.max(0, second - noteEnd[row]));
          }
          left[at] += level;
          right[at] += level / 2;
        }
      });
      frame += SOUND_BLOCK;
    },
  };
};

export const workshop = {
  instruments: plainInstruments,
  scratch: scratchInMemory,
  pause: () => Promise.resolve(),
};

/** All parts cleaned, in one format, where nothing else is said. */
export const choiceOf = (
  { session }: ExportSource,
  formats: readonly FormatChoice[],
  change: Partial<ExportChoice> = {},
): ExportChoice => ({
  parts: session.parts.order,
  version: 'cleaned',
  extent: { of: 'all' },
  names: null,
  formats,
  ...change,
});

/** The bytes of pieces put together. */
export async function together(
  pieces: AsyncIterable<Uint8Array> | Iterable<Uint8Array>,
): Promise<Uint8Array> {
  const list: Uint8Array[] = [];
  for await (const piece of pieces) list.push(piece);
  return new Uint8Array(Buffer.concat(list));
}

/** What is written in one format: each file by its name. */
export async function filesWritten(
  source: ExportSource,
  format: FormatChoice,
  change: Partial<ExportChoice> = {},
  shop: typeof workshop = workshop,
): Promise<Record<string, Uint8Array>> {
  const plan = planExport(source, choiceOf(source, [format], change));
  const written: Record<string, Uint8Array> = {};
  for (const file of plan.files)
    written[file.name] = await together(writeExport({ files: [file], name: file.name, isZip: false }, shop));
  return written;
}

/** A bar of 4/4 at 480 ticks a quarter. */
export const BAR = 1920;

/** A MIDI file as a format that is wanted. */
export const mid = (options: Partial<MidiOptions> = {}): FormatChoice => ({ format: 'mid', options });

/** Events of all tracks with their ticks, as an independent reader has them. */
export function peerEvents(bytes: Uint8Array): (MidiEvent & { tick: number })[] {
  return parseMidi(bytes).tracks.flatMap((track) => {
    let tick = 0;
    return track.map((event) => ({ ...event, tick: (tick += event.deltaTime) }));
  });
}
export const strokes = (bytes: Uint8Array): [tick: number, pitch: number][] =>
  peerEvents(bytes).flatMap((event) => (event.type === 'noteOn' ? [[event.tick, event.noteNumber]] : []));

/** Tempo, meter, a program, the pedal down from the first bar to the fourth, and a stroke on every bar line, early. */
export const HELD = (() => {
  const events: RawEvent[] = [
    [0, 0xff, 0x51, 0, [7, 0xa1, 0x20]],
    [0, 0xff, 0x58, 0, [4, 2, 24, 8]],
    [0, 0xc0, 24, 0],
    [10, 0xb0, 64, 127],
    [2 * BAR, 0xff, 0x51, 0, [0x0c, 0x35, 0x00]],
    [3 * BAR + 100, 0xb0, 64, 0],
  ];
  for (let bar = 0; bar < 6; bar++) {
    const start = Math.max(0, bar * BAR - 30);
    events.push([start, 0x90, 60 + bar, 90], [start + 600, 0x80, 60 + bar, 64]);
    events.push([bar * BAR + 960, 0x90, 72, 90], [bar * BAR + 1100, 0x80, 72, 64]);
  }
  return { ...fileOfNotes([]), tracks: [trackOf(events.sort((a, b) => a[0] - b[0]))] };
})();
