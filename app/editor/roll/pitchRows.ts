/**
 * How high the rows of the pitches are, in rows of full height: `below[pitch]` is the height of all rows under a
 * pitch, `below[128]` that of all. On a drum part the pieces that are not struck get low rows: still there to draw
 * and move into, but the room goes to those that are.
 */
export interface PitchRows {
  below: Float64Array;
}

/** Height of a row nobody plays in, beside those that are played. */
const UNUSED = 0.3;

/** How rows without notes are shown: low, not at all, or only where a whole octave has none not at all. */
export type UnusedRows = 'low' | 'none' | 'octaves';

/**
 * Rows for the pitches that are used in any of several parts; null where none is, which stands for rows of one
 * height.
 */
export function pitchRowsFor(used: readonly Uint8Array[], unused: UnusedRows = 'low'): PitchRows | null {
  const isUsed = (pitch: number) => used.some((pitches) => pitches[pitch] === 1);
  const pitches = Array.from({ length: 128 }, (_, pitch) => pitch);
  if (!pitches.some(isUsed)) return null;
  const octaves = new Set(pitches.filter(isUsed).map((pitch) => Math.floor(pitch / 12)));
  const height = (pitch: number) => {
    if (unused === 'octaves') return octaves.has(Math.floor(pitch / 12)) ? 1 : 0;
    return isUsed(pitch) ? 1 : unused === 'low' ? UNUSED : 0;
  };
  const below = new Float64Array(129);
  for (const pitch of pitches) below[pitch + 1] = below[pitch] + height(pitch);
  return { below };
}

export function areSameRows(one: PitchRows | null, other: PitchRows | null): boolean {
  if (!one || !other) return one === other;
  return one.below.every((height, pitch) => height === other.below[pitch]);
}

/**
 * Height from the bottom up to a place on the keyboard: `place` is a pitch, or between two. Beyond the ends rows of
 * full height go on.
 */
export function heightAt(rows: PitchRows | null, place: number): number {
  if (!rows) return place;
  if (place <= 0) return place;
  if (place >= 128) return rows.below[128] + place - 128;
  const pitch = Math.floor(place);
  return rows.below[pitch] + (place - pitch) * (rows.below[pitch + 1] - rows.below[pitch]);
}

/** The place on the keyboard at a height: the inverse of `heightAt`. */
export function placeAt(rows: PitchRows | null, height: number): number {
  if (!rows) return height;
  const { below } = rows;
  if (height <= 0) return height;
  if (height >= below[128]) return 128 + height - below[128];
  let pitch = 0;
  while (below[pitch + 1] < height) pitch++;
  return pitch + (height - below[pitch]) / (below[pitch + 1] - below[pitch]);
}
