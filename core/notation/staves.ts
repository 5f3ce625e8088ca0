import { divideHands } from '../model';
import type { Stroke } from './strokes';
import type { NoteTable } from '../model';

/** Chords are looked at together where they start within this, in seconds. */
const TOGETHER = 0.04;

/**
 * The staff of each row, 0 the upper one: the player's hands as they part by core's model, or by a line where one is
 * given. Rows of grace notes go with the notes they lead to. What is `said` of a note by its id holds.
 */
export function staffOfRows(
  notes: NoteTable,
  time: Float64Array,
  graces: ReadonlyMap<number, number>,
  line: number | null,
  said: Readonly<Record<string, 0 | 1>> = {},
): Uint8Array {
  const staff = new Uint8Array(notes.length);
  if (line !== null) {
    for (let row = 0; row < notes.length; row++) staff[row] = notes.pitch[row] < line ? 1 : 0;
  } else {
    const chords: number[][] = [];
    for (let row = 0; row < notes.length; row++) {
      if (graces.has(row)) continue;
      const chord = chords.at(-1);
      if (chord && time[row] - time[chord[0]] <= TOGETHER) chord.push(row);
      else chords.push([row]);
    }
    divideHands(chords.map((chord) => chord.map((row) => notes.pitch[row]))).forEach(({ hands }, index) =>
      hands.forEach((hand, at) => (staff[chords[index][at]] = hand === 'left' ? 1 : 0)),
    );
  }
  for (const [row, main] of graces) staff[row] = staff[main];
  for (let row = 0; row < notes.length; row++) staff[row] = said[notes.id[row]] ?? staff[row];
  return staff;
}

/** The rows of a stroke with no pitch twice: of two the longer is written. Those left out come second. */
export function withoutRepeats(
  { rows }: Pick<Stroke, 'rows'>,
  { pitch, end }: NoteTable,
): [kept: number[], dropped: number[]] {
  const kept: number[] = [];
  const dropped: number[] = [];
  for (const row of rows) {
    const at = kept.findIndex((other) => pitch[other] === pitch[row]);
    if (at < 0) kept.push(row);
    else if (end[row] > end[kept[at]]) dropped.push(...kept.splice(at, 1, row));
    else dropped.push(row);
  }
  return [kept.sort((a, b) => pitch[a] - pitch[b]), dropped];
}
