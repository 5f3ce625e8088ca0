import type { NoteTable } from '../model';
import { findFlams, withGraces } from '../steps';
import { ticksToSeconds, type Timeline } from '../time';

/** Which note of a chord a player puts on the beat. */
export type ChordHabit = 'first' | 'middle' | 'last';

/**
 * What is played as one: a note, or a chord however it is rolled. Grace notes and grace strokes belong to the note they
 * lead to and are no strokes of their own.
 */
export interface PlayedStrokes {
  length: number;
  /** Rows of the first and the last note of each, in order of time. */
  first: Int32Array;
  last: Int32Array;
  /** Where they start, in ticks. */
  from: Float64Array;
  to: Float64Array;
  /** How many of them are chords. */
  chords: number;
  /** What the widest chords take, in ms; 0 without chords. */
  widestMs: number;
  /** How many grace notes there are; of drums, grace strokes. */
  graces: number;
}

/** Notes of a rolled chord are `next` apart at most, in seconds, and all of it takes no longer than `all`. */
export const ROLL = { next: 0.045, all: 0.16 };
const { next: NEXT, all: ALL } = ROLL;
/** A chord that is not rolled lies within this. */
const BLOCK = 0.03;
/** Grace strokes are ahead of theirs by no more than this, in seconds: what a quantize step keeps by default. */
const FLAM = 0.06;

/** The rows of grace notes, of drums of grace strokes, and of what they lead to; times in seconds. */
export function graceRows(notes: NoteTable, time: Float64Array, ends: Float64Array, isDrums: boolean) {
  const flams = findFlams(notes, time, isDrums, FLAM);
  return isDrums ? flams : withGraces(flams, notes, { time, ends, perSecond: 1 });
}

/**
 * The strokes of a part. A chord is a run of starts, each soon after the one before, whose notes sound together;
 * `stepMs`, where a grid is known, keeps fast runs from being taken for rolls.
 */
export function playedStrokes(
  notes: NoteTable,
  isDrums: boolean,
  timeline: Timeline,
  stepMs = Infinity,
): PlayedStrokes {
  const seconds = (ticks: Float64Array) => ticks.map((tick) => ticksToSeconds(timeline.tempo, tick));
  const [time, ends] = [seconds(notes.start), seconds(notes.end)];
  const { grace } = graceRows(notes, time, ends, isDrums);
  const isGrace = new Uint8Array(notes.length);
  for (const row of grace) isGrace[row] = 1;
  const next = isDrums ? 0 : Math.min(NEXT, (0.4 * stepMs) / 1000);
  const all = Math.min(ALL, (0.6 * stepMs) / 1000);
  const [first, last]: [number[], number[]] = [[], []];
  let chords = 0;
  const widths: number[] = [];
  for (let row = 0; row < notes.length;) {
    if (isGrace[row]) {
      row++;
      continue;
    }
    let end = row;
    let held = ends[row];
    for (let other = row + 1; other < notes.length && time[other] - time[row] <= all; other++) {
      if (isGrace[other]) continue;
      // Close together is a chord whatever sounds; farther apart it is one where the notes ring into each other.
      const gap = time[other] - time[end];
      const isRolled = gap <= next && held > time[other] + NEXT && !repeats(notes, row, other);
      if (time[other] - time[row] > BLOCK && !isRolled) break;
      end = other;
      held = Math.min(held, ends[other]);
    }
    first.push(row);
    last.push(end);
    if (end > row) {
      chords++;
      widths.push(time[end] - time[row]);
    }
    row = end + 1;
    while (row < notes.length && isGrace[row]) row++;
  }
  widths.sort((a, b) => a - b);
  return {
    length: first.length,
    first: Int32Array.from(first),
    last: Int32Array.from(last),
    from: Float64Array.from(first, (row) => notes.start[row]),
    to: Float64Array.from(last, (row) => notes.start[row]),
    chords,
    widestMs: 1000 * (widths.at(-1) ?? 0),
    graces: grace.length,
  };
}

/** A pitch that is struck again begins another stroke. */
function repeats({ pitch, channel }: NoteTable, first: number, row: number): boolean {
  for (let other = first; other < row; other++)
    if (pitch[other] === pitch[row] && channel[other] === channel[row]) return true;
  return false;
}

/** Where strokes lie by a habit, in ticks. */
export function strokePlaces({ from, to }: PlayedStrokes, habit: ChordHabit): Float64Array {
  if (habit === 'first') return from;
  return habit === 'last' ? to : from.map((tick, stroke) => (tick + to[stroke]) / 2);
}
