import {
  createTimeline,
  readMidi,
  suggestFile,
  takesOfFile,
  ticksToSeconds,
  type MidiFile,
  type NoteTable,
} from '@ordle/core';
import { writeMidi, type MidiEvent } from 'midi-file';
import type { BenchRow } from '../core';
import { TICKS_PER_SECOND } from '../tempo/performances';
import { KINDS, make, type Made } from './made';

/** The performances whose places are known, played under a tempo of their own: what a suggestion makes of them. */

const SEEDS = 24;
/** Ticks a quarter, and the tempo the file claims: what was played keeps to neither. */
const [QUARTER, CLAIMED] = [480, 120];
const PER_SECOND = (QUARTER * CLAIMED) / 60;
/** Silence before the first note, in seconds. */
const LEAD = 1.37;
/** A stroke is found again by its pitch, at most so far from where it was, in seconds. */
const NEAR = 0.12;

interface FreeScore {
  isFree: boolean;
  /** The beats found are those meant, not twice or half as many. */
  isLevelRight: boolean;
  /** Strokes that are as far from the one before as they are written, as a share. */
  fromTheOneBefore: number;
  /** Strokes that lie on their line of one count of beats from first to last, as a share. */
  inOneCount: number;
}

/** When each sixteenth of a quarter is played, in seconds, under a tempo that goes by 9 and 4 % about its middle. */
function warp(bpm: number, seed: number): (quarters: number) => number {
  const STEP = 1 / 16;
  const at = [0];
  for (let index = 0; index < 4000; index++) {
    const quarter = index * STEP;
    const now = bpm * (1 + 0.09 * Math.sin(quarter / 7 + seed) + 0.04 * Math.sin(quarter / 2.3));
    at.push(at[index] + (STEP * 60) / now);
  }
  return (quarters) => {
    const place = Math.min(3999, Math.max(0, quarters / STEP));
    const index = Math.floor(place);
    return at[index] + (place - index) * ((at[index + 1] ?? at[index]) - at[index]);
  };
}

/** When a tick of a made performance is played freely, in seconds. */
function secondsFreely({ bpm }: Made, seed: number): (tick: number) => number {
  const played = warp(bpm, seed);
  return (tick) => LEAD + played(tick / 960);
}

/** The performance, played freely, in a file that claims 120 beats a minute: notes by seconds. */
export function notesFreely(made: Made, seed: number): NoteTable {
  const second = secondsFreely(made, seed);
  const { start, end } = made.notes;
  const ticks = (tick: number) => second(tick) * TICKS_PER_SECOND;
  return { ...made.notes, start: start.map(ticks), end: end.map(ticks) };
}

/** The performance as a file, written by an independent writer. */
function fileOf({ notes, isDrums }: Made, second: (row: number) => [number, number]): MidiFile {
  const channel = isDrums ? 9 : 0;
  const events = [...notes.pitch].flatMap((noteNumber, row): { at: number; event: MidiEvent }[] => {
    const [start, end] = second(row).map((each) => Math.round(each * PER_SECOND));
    const velocity = Math.round(notes.velocity[row]);
    return [
      { at: start, event: { deltaTime: 0, type: 'noteOn', channel, noteNumber, velocity } },
      {
        at: Math.max(start + 20, end),
        event: { deltaTime: 0, type: 'noteOff', channel, noteNumber, velocity: 64 },
      },
    ];
  });
  events.sort((a, b) => a.at - b.at || a.event.type.localeCompare(b.event.type));
  events.forEach(({ at, event }, index) => (event.deltaTime = at - (events[index - 1]?.at ?? 0)));
  const bytes = writeMidi({
    header: { format: 0, numTracks: 1, ticksPerBeat: QUARTER },
    tracks: [[...events.map(({ event }) => event), { deltaTime: 0, type: 'endOfTrack', meta: true }]],
  });
  return readMidi(Uint8Array.from(bytes)).file;
}

/** Start of every note of a file, in quarters and in seconds. */
function placesIn(file: MidiFile): { pitch: number; quarter: number; second: number }[] {
  const takes = takesOfFile(file, (_, place) => `${place}`);
  const { tempo, ticksPerQuarter } = createTimeline(file.division, takes[0].tempos, takes[0].meters);
  return takes.flatMap(({ notes }) =>
    [...notes.start].map((start, row) => ({
      pitch: notes.pitch[row],
      quarter: start / ticksPerQuarter,
      second: ticksToSeconds(tempo, start),
    })),
  );
}

export function scoreFree(made: Made, seed: number): FreeScore {
  const { notes, written } = made;
  const second = secondsFreely(made, seed);
  const suggestion = suggestFile(fileOf(made, (row) => [second(notes.start[row]), second(notes.end[row])]));
  const none = { isFree: false, isLevelRight: false, fromTheOneBefore: 0, inOneCount: 0 };
  if (suggestion.recorded !== 'freely') return none;
  const places = placesIn(suggestion.applied());
  const later = Math.min(...places.map((place) => place.second)) - second(Math.min(...notes.start));
  const found = written
    .flatMap(({ at, step, isAnchor }, id) => {
      if (!isAnchor) return [];
      const off = (place: { second: number }) => Math.abs(place.second - second(notes.start[id]) - later);
      const [near] = places
        .filter((place) => place.pitch === notes.pitch[id] && off(place) < NEAR)
        .sort((a, b) => off(a) - off(b));
      return near ? [{ at, step, quarter: near.quarter }] : [];
    })
    .sort((a, b) => a.at - b.at);
  const levels = [1, 0.5, 2, 1.5, 2 / 3].map((level) => {
    const shift = median(found.map(({ at, quarter }) => quarter * level - at));
    const isRight = (off: number, step: number) => Math.abs(off) <= step / 5;
    const share = (rights: readonly boolean[]) => rights.filter(Boolean).length / Math.max(1, rights.length);
    return {
      level,
      inOneCount: share(found.map(({ at, step, quarter }) => isRight(quarter * level - at - shift, step))),
      fromTheOneBefore: share(
        found.slice(1).map(({ at, step, quarter }, index) => {
          const before = found[index];
          return isRight((quarter - before.quarter) * level - (at - before.at), Math.min(step, before.step));
        }),
      ),
    };
  });
  const best = levels.reduce((most, each) => (each.fromTheOneBefore > most.fromTheOneBefore ? each : most));
  return { isFree: true, isLevelRight: best.level === 1, ...best };
}

const median = (values: readonly number[]): number =>
  [...values].sort((a, b) => a - b)[values.length >> 1] ?? 0;

/** Suggestions for free recordings by what they do to what was meant. */
export function benchSuggestFree(): BenchRow[] {
  return KINDS.flatMap((kind) => {
    const scores = Array.from({ length: SEEDS }, (_, seed) => scoreFree(make(kind, seed), seed));
    const free = scores.filter(({ isFree }) => isFree);
    const mean = (of: (score: FreeScore) => number) =>
      free.reduce((sum, score) => sum + of(score), 0) / Math.max(1, free.length);
    const row = (work: string, value: number, least: number): BenchRow => ({
      work: `suggested, played freely: ${kind}, ${work}`,
      ours: value.toFixed(3),
      peer: `${SEEDS} performances`,
      reach: `at least ${least}`,
      met: value >= least,
    });
    return [
      row('known to be free', free.length / SEEDS, 1),
      row(
        'beats at their level',
        mean(({ isLevelRight }) => Number(isLevelRight)),
        0.9,
      ),
      row(
        'strokes right from the one before',
        mean(({ fromTheOneBefore }) => fromTheOneBefore),
        0.995,
      ),
      row(
        'strokes in one count of beats',
        mean(({ inOneCount }) => inOneCount),
        0.995,
      ),
    ];
  });
}
