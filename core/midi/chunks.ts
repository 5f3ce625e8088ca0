/** Chunks of a Standard MIDI File: four printable characters, a length of four bytes, and that many bytes. */

/** The type of a track chunk, "MTrk". */
export const TRACK = 0x4d54726b;

/** Whether a chunk may end here: at the end of the file, or where another begins. */
export function isChunkEnd(bytes: Uint8Array, position: number): boolean {
  return position === bytes.length || isChunkType(bytes, position);
}

/** Four printable ASCII characters, as every chunk type is. */
export function isChunkType(bytes: Uint8Array, position: number): boolean {
  if (position + 8 > bytes.length) return false;
  for (let index = position; index < position + 4; index++) {
    if (bytes[index] < 0x20 || bytes[index] > 0x7e) return false;
  }
  return true;
}

/** Where a track whose length is wrong ends at the latest: at the next track, or with the file. */
export function trackLimit(bytes: Uint8Array, from: number): number {
  const next = findChunk(bytes, TRACK, from, bytes.length);
  return next < 0 ? bytes.length : next;
}

/** First place from `from` on at which a chunk type stands before `to`, or -1. */
export function findChunk(bytes: Uint8Array, type: number, from: number, to: number): number {
  // A view of the stretch alone: a search in the whole file would go on past `to`, again for every track.
  const stretch = bytes.subarray(from, to);
  const first = type >>> 24;
  for (let at = stretch.indexOf(first); at >= 0; at = stretch.indexOf(first, at + 1)) {
    const value =
      (stretch[at] << 24) | (stretch[at + 1] << 16) | (stretch[at + 2] << 8) | (stretch[at + 3] ?? 0);
    if (at + 4 <= stretch.length && value === type) return from + at;
  }
  return -1;
}
