import type { Material } from '../model';

/**
 * Bytes of results kept for later, beside those of the last evaluation. A slider's 300 positions on 100,000 notes
 * would take 480 MB.
 */
export const MOST_REMEMBERED_BYTES = 96_000_000;

/** Keeps count of remembered results and lets go of those not used for longest once they take too much room. */
export interface Remembered {
  /** Says that an evaluation begins: what it uses stays, however much that is. */
  begin(): void;
  /** Notes a result that was just made, of so many bytes of its own, and the way to forget it. */
  add(result: object, bytes: number, forget: () => void): void;
  /** Notes that a result was used again. */
  touch(result: object): void;
}

export function createRemembered(most = MOST_REMEMBERED_BYTES): Remembered {
  /** In order of their last use. */
  const entries = new Map<object, { bytes: number; forget(): void; used: number }>();
  let bytes = 0;
  let evaluation = 0;
  return {
    begin: () => void evaluation++,
    add(result, size, forget) {
      entries.set(result, { bytes: size, forget, used: evaluation });
      bytes += size;
      for (const [oldest, entry] of entries) {
        if (bytes <= most || entry.used === evaluation) return;
        entry.forget();
        entries.delete(oldest);
        bytes -= entry.bytes;
      }
    },
    touch(result) {
      const entry = entries.get(result);
      if (!entry) return;
      entries.delete(result);
      entry.used = evaluation;
      entries.set(result, entry);
    },
  };
}

/** Bytes of the columns of a result that are not those of what it was made from. */
export function ownBytes(output: Material, input: Material): number {
  return columnBytes(output.notes, input.notes) + columnBytes(output.events, input.events);
}

function columnBytes<T extends object>(made: T, from: T): number {
  if (made === from) return 0;
  let bytes = 0;
  for (const key of Object.keys(made) as (keyof T)[]) {
    const column = made[key];
    if (ArrayBuffer.isView(column) && column !== from[key]) bytes += column.byteLength;
  }
  return bytes;
}
