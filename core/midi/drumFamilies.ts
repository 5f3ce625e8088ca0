/**
 * Which pieces of a General MIDI kit are strokes on one instrument, so that a soft stroke on one and a loud one on
 * another can be a flam (two snares, two toms, hi-hat open and closed). Families by instrument: common practice.
 */
const FAMILIES: readonly (readonly number[])[] = [
  [35, 36],
  [37, 38, 40],
  [41, 43, 45, 47, 48, 50],
  [42, 44, 46],
  [49, 52, 55, 57],
  [51, 53, 59],
  [60, 61],
  [62, 63, 64],
  [65, 66],
  [67, 68],
  [71, 72],
  [73, 74],
  [76, 77],
  [78, 79],
  [80, 81],
];

const FAMILY_OF = new Int16Array(128).map((_, pitch) => {
  const family = FAMILIES.findIndex((pieces) => pieces.includes(pitch));
  return family < 0 ? 100 + pitch : family;
});

/** The number of the family a drum piece belongs to; a piece of its own outside every family. */
export function drumFamily(pitch: number): number {
  return FAMILY_OF[pitch];
}

/** Pieces of a General MIDI kit that a drummer thinks of together, by what they are called (common practice). */
export const DRUM_SETS: readonly { name: string; pieces: readonly number[] }[] = [
  { name: 'bass drums', pieces: [35, 36] },
  { name: 'snares', pieces: [37, 38, 39, 40] },
  { name: 'hi-hats', pieces: [42, 44, 46] },
  { name: 'toms', pieces: [41, 43, 45, 47, 48, 50] },
  { name: 'cymbals', pieces: [49, 51, 52, 53, 55, 57, 59] },
];

/** The sets of which a part plays more than one piece, with those pieces. */
export const drumSetsIn = (used: readonly number[]): { name: string; pieces: number[] }[] =>
  DRUM_SETS.map(({ name, pieces }) => ({
    name,
    pieces: used.filter((pitch) => pieces.includes(pitch)),
  })).filter(({ pieces }) => pieces.length > 1);
