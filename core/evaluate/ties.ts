import { DRUM_CHANNEL } from '../midi';
import { compareRows } from './orderByTick';
import { keyOf, type Loom } from './loom';

/** A stroke by its row, and where its note ends, in whole ticks. */
interface Tied {
  row: number;
  end: number;
  note: number;
}

/** Strokes of one pitch at one tick, some of which were moved there, are put in the order of their ends. */
export function createTies() {
  /** By channel and pitch: the last stroke and its tick. */
  const lastTick = new Float64Array(2048).fill(-1);
  const lastRow = new Float64Array(2048);
  const lastEnd = new Float64Array(2048);
  const lastNote = new Float64Array(2048);
  const lastMoved = new Uint8Array(2048);
  /** Groups of strokes at one tick, by the row of their first. */
  const groups = new Map<number, Tied[]>();
  const groupOf = new Int32Array(2048).fill(-1);
  return {
    /**
     * Takes up the strokes in order of their ticks; `key` is status and pitch as one number, `note` the row of the
     * note.
     */
    stroke(row: number, tick: number, end: number, key: number, isMoved: boolean, note: number) {
      // Strokes of drums have no lengths to speak of: a grace stroke stays before its main stroke.
      if (((key >> 8) & 15) === DRUM_CHANNEL) return;
      const at = ((key >> 8) & 15) * 128 + (key & 127);
      if (lastTick[at] === tick && (isMoved || lastMoved[at] === 1)) {
        if (groupOf[at] < 0) {
          groupOf[at] = lastRow[at];
          groups.set(lastRow[at], [{ row: lastRow[at], end: lastEnd[at], note: lastNote[at] }]);
        }
        groups.get(groupOf[at])?.push({ row, end, note });
      } else groupOf[at] = -1;
      lastTick[at] = tick;
      lastRow[at] = row;
      lastEnd[at] = end;
      lastNote[at] = note;
      lastMoved[at] = isMoved ? 1 : 0;
    },
    /**
     * Gives the rows of each group its strokes anew: what of a stroke is not in its row's tick is in its bytes.
     * `onRows` has the row of each note's stroke and is kept true.
     */
    settle(loom: Loom, onRows?: Uint32Array) {
      const { bytes } = loom;
      const inOrder = (a: Tied, b: Tied) =>
        keyOf(loom, a.row) - keyOf(loom, b.row) || compareRows(loom, a.row, b.row);
      for (const group of groups.values()) {
        const rows = [...group].sort(inOrder).map(({ row }) => row);
        const byEnd = [...group].sort((a, b) => a.end - b.end || inOrder(a, b));
        const strokes = byEnd.map(({ row }) => bytes[row] & 0xffffff);
        if (onRows) byEnd.forEach(({ note }, index) => (onRows[note] = rows[index]));
        rows.forEach((row, index) => {
          bytes[row] = (bytes[row] & ~0xffffff) | strokes[index];
        });
      }
    },
  };
}
