import type { ViewNotes } from '@ordle/core';

/** Rows of a block. */
export const BLOCK = 32;

/**
 * What neighbouring rows have in common, `BLOCK` rows at a time: seen from far away a block of notes lies in one
 * pixel, and nobody need look at each of them. Of each block the last start, the last end, the loudest velocity, and
 * the pitches it has, as 4 words of 32 bits.
 */
export interface NoteBlocks {
  lastStart: Float64Array;
  lastEnd: Float64Array;
  loudest: Uint8Array;
  pitches: Uint32Array;
}

const known = new WeakMap<ViewNotes, NoteBlocks>();

export function blocksOf(notes: ViewNotes): NoteBlocks {
  const kept = known.get(notes);
  if (kept) return kept;
  const count = Math.ceil(notes.length / BLOCK);
  const blocks: NoteBlocks = {
    lastStart: new Float64Array(count),
    lastEnd: new Float64Array(count),
    loudest: new Uint8Array(count),
    pitches: new Uint32Array(4 * count),
  };
  const { start, end, pitch, velocity } = notes;
  for (let row = 0; row < notes.length; row++) {
    const block = Math.floor(row / BLOCK);
    blocks.lastStart[block] = start[row];
    if (end[row] > blocks.lastEnd[block]) blocks.lastEnd[block] = end[row];
    if (velocity[row] > blocks.loudest[block]) blocks.loudest[block] = velocity[row];
    blocks.pitches[4 * block + (pitch[row] >> 5)] |= 1 << (pitch[row] & 31);
  }
  known.set(notes, blocks);
  return blocks;
}
