import { ROLL, graceRows, type ChordHabit } from '../analysis';
import type { NoteTable } from '../model';
import { FEET } from './voices';

/** What is written as one: a note or a chord, with the grace notes that lead to it. */
export interface Stroke {
  /** Rows of the part's notes, lowest pitch first. */
  rows: number[];
  /** Rows of its grace notes, earliest first. */
  graces: number[];
  /** When it is struck, in seconds. */
  second: number;
  /** From the first note of it to the last, in seconds. */
  width: number;
}

/** Notes that start within this of the first of them are one chord, in seconds. */
const CHORD = 0.04;
/** A chord no wider than this is struck as one, in seconds; up to `CHORD` it stands at the middle of its starts. */
const STRUCK_AS_ONE = 0.025;

/** Which rows of a part are grace notes, with the row each leads to. */
export function gracesOf(
  notes: NoteTable,
  time: Float64Array,
  ends: Float64Array,
  isDrums: boolean,
): Map<number, number> {
  const { grace, main } = graceRows(notes, time, ends, isDrums);
  const pairs = grace.map((row, index) => [row, main[index]] as const);
  // A foot does not lead to what a hand plays.
  const isFoot = (row: number) => FEET.has(notes.pitch[row]);
  return new Map(isDrums ? pairs.filter(([row, to]) => isFoot(row) === isFoot(to)) : pairs);
}

/**
 * The strokes among some rows of a part, in order of time. `graces` are rows that lead to another; one whose note is
 * itself a grace, or is not among the rows, leads to the last of the chain that is. `habit` says which note of a
 * rolled chord is on the beat.
 */
export function strokesAmong(
  rows: readonly number[],
  { pitch }: NoteTable,
  time: Float64Array,
  ends: Float64Array,
  graces: ReadonlyMap<number, number>,
  habit: ChordHabit,
): Stroke[] {
  const mains = rows.filter((row) => !graces.has(row));
  const strokes: Stroke[] = [];
  const strokeOf = new Map<number, Stroke>();
  for (let index = 0; index < mains.length;) {
    const first = mains[index];
    const chord = [first];
    let held = ends[first];
    let next = index + 1;
    for (; next < mains.length; next++) {
      const row = mains[next];
      const [since, gap] = [time[row] - time[first], time[row] - time[mains[next - 1]]];
      const isRolled = since <= ROLL.all && gap <= ROLL.next && held > time[row] + ROLL.next;
      if (since > CHORD && !isRolled) break;
      if (chord.some((other) => pitch[other] === pitch[row])) break;
      chord.push(row);
      held = Math.min(held, ends[row]);
    }
    const last = chord[chord.length - 1];
    const width = time[last] - time[first];
    const mean = chord.reduce((sum, row) => sum + time[row], 0) / chord.length;
    const stroke: Stroke = {
      rows: chord.toSorted((a, b) => pitch[a] - pitch[b]),
      graces: [],
      second: width > CHORD ? { first: time[first], middle: mean, last: time[last] }[habit] : mean,
      width,
    };
    strokes.push(stroke);
    for (const row of chord) strokeOf.set(row, stroke);
    index = next;
  }
  for (const row of rows) {
    let main = graces.get(row);
    for (let steps = 0; main !== undefined && graces.has(main) && steps < 8; steps++) main = graces.get(main);
    if (main !== undefined) strokeOf.get(main)?.graces.push(row);
  }
  return strokes;
}

/** Whether a stroke is written with the sign of a roll: three notes or more that are not struck as one. */
export const isRolled = ({ rows, width }: Stroke): boolean => rows.length > 2 && width > STRUCK_AS_ONE;
