import { pairClosest, type NoteTable, type Stroke } from '../model';
import { bestMatch } from '../takes';
import { secondsToTicks, ticksToSeconds, type Timeline } from '../time';

/**
 * How a note of one performance stands to the other: in both alike, in both but elsewhere or otherwise played, only
 * in the other, or only here.
 */
export const COMPARED_KINDS = ['same', 'moved', 'changed', 'missing', 'extra'] as const;
export type ComparedKind = (typeof COMPARED_KINDS)[number];

/** A note of both performances, or of one of them. */
export interface ComparedNote {
  kind: ComparedKind;
  /** Where it is here, or would be, in ticks. */
  tick: number;
  pitch: number;
  /** Rows in the two tables; -1 where it is not there. */
  row: number;
  other: number;
  /** How much later, louder and longer it is here than there; 0 where it is in one alone. */
  laterMs: number;
  louder: number;
  longerMs: number;
}

export interface NoteComparison {
  notes: ComparedNote[];
  counts: Record<ComparedKind, number>;
  /** Of the notes in both, those that are elsewhere at all: by half a millisecond. */
  elsewhere: number;
  /** By how much the other was slid later (above 0) to lie along this one, in ms; 0 where they began together. */
  slidMs: number;
  /** Of the notes in both: mean and standard deviation of how much later they are here, in ms. */
  laterMs: { mean: number; deviation: number };
}

/** A note that is elsewhere by this, in ms, has moved, however little it is heard. */
const MOVED_MS = 0.5;

/** Two notes of a pitch that are further apart than this, in seconds, are two notes. */
const REACH = 0.25;
/** What notes are paired over and alike within, to be told; ms. */
export const COMPARED_WITHIN = { pairedMs: 1000 * REACH, alikeMs: 5 };
/** Nearer than this in time, in ms, and in velocity, is alike; lengths may differ by the larger of this and a share. */
const [ALIKE_MS, ALIKE_VELOCITY, ALIKE_LENGTH_MS, ALIKE_LENGTH] = [5, 3, 20, 0.15];
/**
 * Performances are slid only where they then agree in this share of notes, and lie further off than notes are paired
 * over.
 */
const LEAST_SHARE = 0.4;

/**
 * Compares two performances note by note, both in ticks of one timeline: notes of one pitch are paired closest first,
 * each at most once, over at most 250 ms. Where they were recorded from different places on, the other is slid along
 * first. In order of time.
 */
export function compareNotes(one: NoteTable, other: NoteTable, timeline: Timeline): NoteComparison {
  const seconds = (ticks: Float64Array) => ticks.map((tick) => ticksToSeconds(timeline.tempo, tick));
  const [start, end] = [seconds(one.start), seconds(one.end)];
  const [otherStart, otherEnd] = [seconds(other.start), seconds(other.end)];
  const slid = slideOf(one, other, timeline);
  const pairs = pairUp(one, other, start, otherStart, slid);
  const notes: ComparedNote[] = [];
  const pairOf = new Int32Array(other.length).fill(-1);
  let [sum, squares, both, elsewhere] = [0, 0, 0, 0];
  for (let row = 0; row < one.length; row++) {
    const match = pairs[row];
    if (match >= 0) pairOf[match] = row;
    const alone = match < 0;
    const laterMs = alone ? 0 : 1000 * (start[row] - otherStart[match] - slid);
    const louder = alone ? 0 : one.velocity[row] - other.velocity[match];
    const [length, otherLength] = [end[row] - start[row], alone ? 0 : otherEnd[match] - otherStart[match]];
    const longerMs = alone ? 0 : 1000 * (length - otherLength);
    if (!alone) {
      sum += laterMs;
      squares += laterMs ** 2;
      both++;
      if (Math.abs(laterMs) >= MOVED_MS) elsewhere++;
    }
    const isLonger = Math.abs(longerMs) > Math.max(ALIKE_LENGTH_MS, ALIKE_LENGTH * 1000 * otherLength);
    const kind: ComparedKind = alone
      ? 'extra'
      : Math.abs(laterMs) > ALIKE_MS
        ? 'moved'
        : Math.abs(louder) > ALIKE_VELOCITY || isLonger
          ? 'changed'
          : 'same';
    notes.push({
      kind,
      tick: one.start[row],
      pitch: one.pitch[row],
      row,
      other: match,
      laterMs,
      louder,
      longerMs,
    });
  }
  for (let row = 0; row < other.length; row++) {
    if (pairOf[row] >= 0) continue;
    const tick = slid === 0 ? other.start[row] : secondsToTicks(timeline.tempo, otherStart[row] + slid);
    notes.push({
      kind: 'missing',
      tick,
      pitch: other.pitch[row],
      row: -1,
      other: row,
      laterMs: 0,
      louder: 0,
      longerMs: 0,
    });
  }
  notes.sort((a, b) => a.tick - b.tick || a.pitch - b.pitch);
  const counts = { same: 0, moved: 0, changed: 0, missing: 0, extra: 0 };
  for (const { kind } of notes) counts[kind]++;
  const mean = both === 0 ? 0 : sum / both;
  const deviation = both === 0 ? 0 : Math.sqrt(Math.max(0, squares / both - mean ** 2));
  return { notes, counts, elsewhere, slidMs: 1000 * slid, laterMs: { mean, deviation } };
}

/**
 * By how many seconds the other has to go later to lie along this one; 0 where they lie along each other as they are.
 */
function slideOf(one: NoteTable, other: NoteTable, timeline: Timeline): number {
  if (one.length === 0 || other.length === 0) return 0;
  const match = bestMatch(other, one, timeline);
  return match && Math.abs(match.seconds) > REACH && match.share >= LEAST_SHARE ? match.seconds : 0;
}

/** For each row the row of the other it is the same note as; -1 for none. */
function pairUp(
  one: NoteTable,
  other: NoteTable,
  start: Float64Array,
  otherStart: Float64Array,
  slid: number,
): Int32Array {
  const byPitch = new Map<number, (Stroke & { at: number })[]>();
  const add = (pitch: number, stroke: Stroke & { at: number }) => {
    const list = byPitch.get(pitch);
    if (list) list.push(stroke);
    else byPitch.set(pitch, [stroke]);
  };
  for (let row = 0; row < one.length; row++) add(one.pitch[row], { set: 0, row, at: start[row] });
  for (let row = 0; row < other.length; row++)
    add(other.pitch[row], { set: 1, row, at: otherStart[row] + slid });
  const pairs = new Int32Array(one.length).fill(-1);
  for (const strokes of byPitch.values())
    for (const [a, b] of pairClosest(strokes, REACH))
      pairs[a.set === 0 ? a.row : b.row] = a.set === 0 ? b.row : a.row;
  return pairs;
}
