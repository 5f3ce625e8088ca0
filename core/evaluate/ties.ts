import { DRUM_CHANNEL } from '../midi';

/** A stroke by its row, and where its note ends, in whole ticks. */
interface Tied {
  row: number;
  end: number;
}

/** Strokes of one pitch at one tick, some of which were moved there, are put in the order of their ends. */
export function createTies() {
  /** By channel and pitch: the last stroke and its tick. */
  const lastTick = new Float64Array(2048).fill(-1);
  const lastRow = new Float64Array(2048);
  const lastEnd = new Float64Array(2048);
  const lastMoved = new Uint8Array(2048);
  /** Groups of strokes at one tick, by the row of their first. */
  const groups = new Map<number, Tied[]>();
  const groupOf = new Int32Array(2048).fill(-1);
  return {
    /** Takes up the strokes in order of their ticks; `key` is status and pitch as one number. */
    stroke(row: number, tick: number, end: number, key: number, isMoved: boolean) {
      // Strokes of drums have no lengths to speak of: a grace stroke stays before its main stroke.
      if (((key >> 8) & 15) === DRUM_CHANNEL) return;
      const at = ((key >> 8) & 15) * 128 + (key & 127);
      if (lastTick[at] === tick && (isMoved || lastMoved[at] === 1)) {
        if (groupOf[at] < 0) {
          groupOf[at] = lastRow[at];
          groups.set(lastRow[at], [{ row: lastRow[at], end: lastEnd[at] }]);
        }
        groups.get(groupOf[at])?.push({ row, end });
      } else groupOf[at] = -1;
      [lastTick[at], lastRow[at], lastEnd[at], lastMoved[at]] = [tick, row, end, isMoved ? 1 : 0];
    },
    /** Gives the strokes of each group the places they have among them anew. */
    settle(order: Float64Array) {
      for (const group of groups.values()) {
        const places = group.map(({ row }) => order[row]).sort((a, b) => a - b);
        [...group]
          .sort((a, b) => a.end - b.end || order[a.row] - order[b.row])
          .forEach(({ row }, index) => {
            order[row] = places[index];
          });
      }
    },
  };
}
