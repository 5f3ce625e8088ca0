import { secondsAt } from '../following';
import type { NoteTable } from '../model';
import { ticksToSeconds, type Timeline } from '../time';
import type { Followed } from './followedParts';

/** What stands for what is written at some stop of the parts that are followed. */
export interface Standing {
  /** For each occurrence the part and the row in its table that stand for it, or -1: it is missing. */
  partOf: Int32Array;
  rowOf: Int32Array;
  /** Whether that has the written pitch. */
  isRight: Uint8Array;
  /** Notes that stand for nothing that is written. */
  extra: { part: number; row: number }[];
}

/** A note drawn by hand stands for what is written this near, in quarters of its place or in seconds of the playing. */
const [NEAR_QUARTERS, NEAR_SECONDS] = [0.26, 0.3];

/**
 * What became of every written note at a stop: `tables` are the notes of the followed parts there, in their order. What
 * was played is known by its id; what was drawn since stands for what is missing of its pitch near its place.
 */
export function standingOf(followed: Followed, tables: readonly NoteTable[], timeline: Timeline): Standing {
  const { following, parts, score, beginsAt } = followed;
  const count = following.occurrences.length;
  const [partOf, rowOf] = [new Int32Array(count).fill(-1), new Int32Array(count).fill(-1)];
  const isRight = new Uint8Array(count);
  const loose: { part: number; row: number }[] = [];
  const stand = (occurrence: number, part: number, row: number) => {
    [partOf[occurrence], rowOf[occurrence]] = [part, row];
    isRight[occurrence] =
      tables[part].pitch[row] === score.pitch[following.occurrences[occurrence].row] ? 1 : 0;
  };
  tables.forEach((notes, part) => {
    const beside = followed.beside(parts[part].part.id);
    for (let row = 0; row < notes.length; row++) {
      const played = beside.playedRowOf(notes.id[row]);
      const occurrence = played === undefined ? -1 : following.occurrenceOf[played];
      if (occurrence >= 0 && partOf[occurrence] < 0) stand(occurrence, part, row);
      else loose.push({ part, row });
    }
  });
  const open = [...partOf.keys()].filter((occurrence) => partOf[occurrence] < 0);
  const origin = following.passages.at(0)?.from ?? 0;
  const extra = loose.filter(({ part, row }) => {
    const { id, start, pitch } = tables[part];
    // What was played and found no written note is extra for good.
    if (followed.beside(parts[part].part.id).playedRowOf(id[row]) !== undefined) return true;
    const quarters = start[row] / timeline.ticksPerQuarter;
    const seconds = ticksToSeconds(timeline.tempo, start[row]);
    const found = open.findIndex((occurrence) => {
      const { row: written, place } = following.occurrences[occurrence];
      if (score.pitch[written] !== pitch[row]) return false;
      return (
        Math.abs(beginsAt + place - origin - quarters) <= NEAR_QUARTERS ||
        Math.abs(secondsAt(following.clock, place) - seconds) <= NEAR_SECONDS
      );
    });
    if (found < 0) return true;
    stand(open[found], part, row);
    open.splice(found, 1);
    return false;
  });
  return { partOf, rowOf, isRight, extra };
}

/** Playing keeps to the session where it scatters about its places by less than this, in quarters. */
const KEEPS_QUARTERS = 0.25;
/** Without a click a stroke is early or late beside what is played within so many quarters of it. */
const AROUND = 2;

/**
 * How late each occurrence is at a stop, in ms (early below 0): by the bars where the playing keeps to them, else
 * beside the tempo of what is played around it. NaN where it is missing.
 */
export function latenessByScore(
  followed: Followed,
  standing: Standing,
  tables: readonly NoteTable[],
  timeline: Timeline,
): { late: Float64Array; isByBars: boolean } {
  const { following, beginsAt } = followed;
  const { occurrences } = following;
  const origin = following.passages.at(0)?.from ?? 0;
  const late = new Float64Array(occurrences.length).fill(NaN);
  const seconds = new Float64Array(occurrences.length);
  const off: number[] = [];
  occurrences.forEach(({ place }, index) => {
    if (standing.partOf[index] < 0) return;
    const tick = tables[standing.partOf[index]].start[standing.rowOf[index]];
    const target = (beginsAt + place - origin) * timeline.ticksPerQuarter;
    seconds[index] = ticksToSeconds(timeline.tempo, tick);
    late[index] = 1000 * (seconds[index] - ticksToSeconds(timeline.tempo, target));
    off.push((tick - target) / timeline.ticksPerQuarter);
  });
  off.sort((a, b) => a - b);
  const at = (share: number) => off[Math.floor(share * (off.length - 1))] ?? 0;
  const isByBars =
    at(0.9) - at(0.1) <= 2 * KEEPS_QUARTERS &&
    Math.max(Math.abs(at(0.1)), Math.abs(at(0.9))) < 2 * KEEPS_QUARTERS;
  if (isByBars) return { late, isByBars };
  const known = [...late.keys()].filter((index) => !Number.isNaN(late[index]));
  let [from, to] = [0, 0];
  for (const index of known) {
    const { place, passage } = occurrences[index];
    while (occurrences[known[from]].place < place - AROUND) from++;
    while (to < known.length && occurrences[known[to]].place <= place + AROUND) to++;
    const others = known
      .slice(from, to)
      .filter((other) => occurrences[other].passage === passage && occurrences[other].place !== place);
    const line = lineThrough(
      others.map((other) => occurrences[other].place),
      others.map((other) => seconds[other]),
    );
    late[index] = line ? 1000 * (seconds[index] - line(place)) : 0;
  }
  return { late, isByBars };
}

/** The straight line of least squares; null through fewer than two places. */
function lineThrough(x: readonly number[], y: readonly number[]): ((at: number) => number) | null {
  const count = x.length;
  const [meanX, meanY] = [x, y].map((list) => list.reduce((sum, each) => sum + each, 0) / count);
  let [product, square] = [0, 0];
  x.forEach((at, index) => {
    product += (at - meanX) * (y[index] - meanY);
    square += (at - meanX) ** 2;
  });
  if (count < 2 || square < 1e-9) return null;
  return (at) => meanY + (product / square) * (at - meanX);
}
