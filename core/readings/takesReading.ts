import type { Score } from '../following';
import { readBars, type SourceReading } from '../merging';
import type { NoteTable } from '../model';
import { layerOf, orderedOf, type Part, type PartTake } from '../session';
import { compareTakes, compareToScore } from '../takes';
import type { NoteValue, Timeline } from '../time';
import { laidNotes, NO_LAID_NOTES, type LaidNotes } from './laidNotes';

/** A take of a part, read bar by bar. */
export interface TakeRow {
  take: PartTake;
  notes: LaidNotes;
  reading: SourceReading;
  /** Least and most velocity; null without notes. */
  velocity: [number, number] | null;
  /** A count a bar, bar 1 first. */
  missing: Uint16Array;
  extra: Uint16Array;
  /** Whether these are counted by the score beside the part; else by what most of the other takes have. */
  isByScore: boolean;
  /** Why it cannot be shown, such as a performance that is no longer in this browser; null where it can. */
  fault: string | null;
}

/** A part that lays one take as far as it goes and nothing else. */
function partOfTake(part: Part, take: PartTake): Part {
  const piece = {
    id: `alone${take.number}`,
    number: take.number,
    source: take.source,
    ...(take.split && { split: take.split }),
    from: Math.max(take.from, -take.slide, 0),
    to: take.to,
    at: Math.max(take.from, -take.slide, 0) + take.slide,
    rest: 'none' as const,
  };
  return { ...part, layers: orderedOf([layerOf([piece])]), steps: orderedOf([]) };
}

/** Parts of single takes, kept so that their evaluation is: as many as a person may go through in a sitting. */
const known = new Map<string, Part>();
const MOST_KNOWN = 200;

/** The part with that take alone, and no step. */
export function takeAlone(part: Part, take: PartTake): Part {
  const { number, source, split, from, to, slide } = take;
  const key = JSON.stringify([part.id, part.lockedTo, part.sound, number, source, split, from, to, slide]);
  const found = known.get(key) ?? partOfTake(part, take);
  // What was asked for last goes last.
  known.delete(key);
  known.set(key, found);
  for (const oldest of known.keys()) {
    if (known.size <= MOST_KNOWN) break;
    known.delete(oldest);
  }
  return found;
}

/** A take as it lies in the session; or why it cannot be read. */
export type LaidTake = { take: PartTake; notes: NoteTable } | { take: PartTake; fault: string };

/**
 * Takes of a part, each read by itself against a grid and compared with the others. One that cannot be read says why;
 * the others are read all the same. With a `score` they are compared with it.
 */
export function readTakes(
  laid: readonly LaidTake[],
  grid: NoteValue,
  timeline: Timeline,
  score: Score | null = null,
): TakeRow[] {
  const notesOf = laid.map((each) => ('notes' in each ? each.notes : NO_LAID_NOTES));
  const readings = notesOf.map((notes) => readBars(notes, grid, timeline));
  const bars = Math.max(1, ...readings.map((reading) => reading.bars.length));
  const compared = score
    ? compareToScore(notesOf, score, bars, timeline)
    : compareTakes(notesOf, grid, bars, timeline);
  return laid.map((each, index) => ({
    take: each.take,
    notes: 'notes' in each ? laidNotes(each.notes) : NO_LAID_NOTES,
    reading: readings[index],
    velocity: notesOf[index].start.length > 0 ? rangeOf(notesOf[index].velocity) : null,
    ...compared[index],
    isByScore: score !== null,
    fault: 'fault' in each ? each.fault : null,
  }));
}

function rangeOf(values: Float64Array): [number, number] {
  let [low, high] = [Infinity, -Infinity];
  for (const value of values) {
    if (value < low) low = value;
    if (value > high) high = value;
  }
  return [low, high];
}
