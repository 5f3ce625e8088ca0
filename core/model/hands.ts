export type Hand = 'left' | 'right';

/** Semitones one hand reaches (common practice: an octave and a little). */
const REACH = 14;
/** How fast the place of a hand follows what it plays, 0-1. */
const FOLLOWS = 0.3;

/** A chord as two hands play it. */
export interface DividedChord {
  /** The hand of each note, in the order of the chord. */
  hands: Hand[];
  /** Between which pitches the hands part: what lies below is the left one's. */
  line: number;
}

/**
 * Which hand plays each note of each chord, by a split that follows the music: each hand has a place on the keyboard that follows what it
 * plays, and a chord is cut where its notes lie nearest to those places, with neither hand reaching further than it can. Hands do not cross
 * within a chord. `shiftOf` moves the line of a chord (by its number) up or down by semitones; the lines of the others stay. A model of our own; no
 * published source.
 */
export function divideHands(
  chords: readonly (readonly number[])[],
  shiftOf: (chord: number) => number = () => 0,
): DividedChord[] {
  const places = { left: 48, right: 67 };
  return chords.map((chord, number) => {
    const pitches = [...chord].sort((a, b) => a - b);
    let [best, cut] = [Infinity, 0];
    for (let count = 0; count <= pitches.length; count++) {
      const cost = costOf(pitches.slice(0, count), places.left) + costOf(pitches.slice(count), places.right);
      if (cost < best) [best, cut] = [cost, count];
    }
    const line = lineAt(pitches, cut, (places.left + places.right) / 2) + shiftOf(number);
    places.left = followed(places.left, pitches.slice(0, cut));
    places.right = followed(places.right, pitches.slice(cut));
    return { hands: chord.map((pitch) => (pitch < line ? 'left' : 'right')), line };
  });
}

/** The hands alone. */
export const handsOf = (chords: readonly (readonly number[])[]): Hand[][] =>
  divideHands(chords).map(({ hands }) => hands);

/** The line of a chord cut before its `cut`-th pitch: in the middle of the gap, or between the hands where one plays all of it. */
function lineAt(pitches: readonly number[], cut: number, between: number): number {
  const [below, above] = [pitches.at(cut - 1), pitches.at(cut)];
  if (cut === 0) return Math.min(between, pitches[0] - 0.5);
  if (cut === pitches.length || above === undefined) return Math.max(between, pitches[cut - 1] + 0.5);
  return ((below ?? above) + above) / 2;
}

function costOf(pitches: readonly number[], place: number): number {
  if (pitches.length === 0) return 0;
  const stretch = Math.max(0, pitches[pitches.length - 1] - pitches[0] - REACH);
  return pitches.reduce((sum, pitch) => sum + Math.abs(pitch - place), 0) + 12 * stretch;
}

function followed(place: number, pitches: readonly number[]): number {
  if (pitches.length === 0) return place;
  const mean = pitches.reduce((sum, pitch) => sum + pitch, 0) / pitches.length;
  return place + FOLLOWS * (mean - place);
}
