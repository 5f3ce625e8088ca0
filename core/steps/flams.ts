import { drumFamily } from '../midi';
import type { NoteTable } from '../model';

/** Pitches run to 127, drum families to 100 + 127. */
const MOST_KEYS = 256;

/** Grace strokes and their main strokes as pairs of rows, the latest grace first. */
export interface Flams {
  grace: number[];
  main: number[];
}

/**
 * Finds the grace strokes: notes that start less than `reach` before a louder note of the same pitch, or on drums of
 * the same instrument family. The nearest louder note is the main one. `time` are the starts in the unit of `reach`.
 */
export function findFlams(notes: NoteTable, time: Float64Array, isDrums: boolean, reach: number): Flams {
  return findByLookingAhead(notes, time, isDrums, reach) ?? findByStacks(notes, time, isDrums, reach);
}

/** Looks at the few notes that follow within reach; gives up (null) where they are many, as in a crowd at one tick. */
function findByLookingAhead(
  { length, pitch, velocity }: NoteTable,
  time: Float64Array,
  isDrums: boolean,
  reach: number,
): Flams | null {
  const flams: Flams = { grace: [], main: [] };
  let budget = 16 * length;
  for (let row = length - 2; row >= 0; row--) {
    const at = time[row];
    const limit = at + reach;
    let other = row + 1;
    for (; other < length; other++) {
      const then = time[other];
      if (then >= limit) break;
      if (then === at || velocity[other] <= velocity[row]) continue;
      const same = isDrums
        ? drumFamily(pitch[other]) === drumFamily(pitch[row])
        : pitch[other] === pitch[row];
      if (!same) continue;
      flams.grace.push(row);
      flams.main.push(other);
      break;
    }
    budget -= other - row;
    if (budget < 0) return null;
  }
  return flams;
}

/** The same by a stack a key ("next greater element"): linear however crowded the notes are. */
function findByStacks(
  { length, pitch, velocity, start }: NoteTable,
  time: Float64Array,
  isDrums: boolean,
  reach: number,
): Flams {
  const flams: Flams = { grace: [], main: [] };
  // Linked lists through the rows: louder and later notes lie deeper.
  const top = new Int32Array(MOST_KEYS).fill(-1);
  const below = new Int32Array(length);
  for (let row = length - 1; row >= 0; row--) {
    const key = isDrums ? drumFamily(pitch[row]) : pitch[row];
    const limit = time[row] + reach;
    let louder = top[key];
    if (louder >= 0 && time[louder] >= limit) louder = -1;
    while (louder >= 0 && velocity[louder] <= velocity[row]) louder = below[louder];
    below[row] = louder;
    top[key] = row;
    while (louder >= 0 && start[louder] === start[row]) louder = below[louder];
    if (louder < 0 || time[louder] >= limit) continue;
    flams.grace.push(row);
    flams.main.push(louder);
  }
  return flams;
}

/**
 * Grace notes: shorter than this, in seconds, and than this share of the note they lead to; ahead of it by no more than
 * this, a few semitones from it, and over soon after it has begun (common practice).
 */
const [GRACE_LENGTH, GRACE_SHARE, GRACE_AHEAD, GRACE_STEPS, GRACE_OVER] = [0.13, 0.6, 0.12, 4, 0.04];
/** A note that is ahead by less than this, in seconds, is one of a chord. */
const GRACE_LEAST = 0.02;

/**
 * Grace strokes and beside them the grace notes of a melody, each with the note it leads to. `time` and `ends` are in a
 * unit of which `perSecond` make a second.
 */
export function withGraces(
  { grace, main }: Flams,
  notes: NoteTable,
  { time, ends, perSecond }: { time: Float64Array; ends: Float64Array; perSecond: number },
): Flams {
  const found: Flams = { grace: [...grace], main: [...main] };
  const known = new Set(grace);
  const { pitch, channel, velocity, length } = notes;
  const lasts = (row: number) => (ends[row] - time[row]) / perSecond;
  for (let row = 0; row + 1 < length; row++) {
    if (known.has(row)) continue;
    const own = lasts(row);
    if (own > GRACE_LENGTH) continue;
    for (let other = row + 1; other < length; other++) {
      const ahead = (time[other] - time[row]) / perSecond;
      if (ahead > GRACE_AHEAD) break;
      const steps = Math.abs(pitch[other] - pitch[row]);
      const leads =
        ahead >= GRACE_LEAST &&
        steps > 0 &&
        steps <= GRACE_STEPS &&
        channel[other] === channel[row] &&
        velocity[row] <= velocity[other] &&
        own <= ahead + GRACE_OVER &&
        own <= GRACE_SHARE * lasts(other);
      if (!leads) continue;
      found.grace.push(row);
      found.main.push(other);
      break;
    }
  }
  // A grace that leads to a grace keeps its distance from it: the latest are placed first.
  const rows = found.grace
    .map((row, index) => ({ row, main: found.main[index] }))
    .sort((a, b) => b.row - a.row);
  return { grace: rows.map(({ row }) => row), main: rows.map(({ main: of }) => of) };
}
