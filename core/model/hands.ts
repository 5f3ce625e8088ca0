export type Hand = 'left' | 'right';

/** Semitones one hand reaches (common practice: an octave and a little). */
const REACH = 14;
/** Costs that differ by less are equal: they are sums of the same numbers in another order. */
const ROUNDING = 1e-9;
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
 * Which hand plays each note of each chord, by a split that follows the music: each hand has a place on the keyboard
 * that follows what it plays, and a chord is cut where its notes lie nearest to those places, with neither hand
 * reaching further than it can. Hands do not cross within a chord. `shiftOf` moves the line of a chord (by its
 * number) up or down by semitones; the lines of the others stay. A model of our own; no published source.
 */
export function divideHands(
  chords: readonly (readonly number[])[],
  shiftOf: (chord: number) => number = () => 0,
): DividedChord[] {
  const places = { left: 48, right: 67 };
  return chords.map((chord, number) => {
    const pitches = [...chord].sort((a, b) => a - b);
    const cut = bestCut(pitches, places);
    const line = lineAt(pitches, cut, (places.left + places.right) / 2) + shiftOf(number);
    places.left = followed(places.left, pitches.slice(0, cut));
    places.right = followed(places.right, pitches.slice(cut));
    return { hands: chord.map((pitch) => (pitch < line ? 'left' : 'right')), line };
  });
}

/** The hands alone. */
export const handsOf = (chords: readonly (readonly number[])[]): Hand[][] =>
  divideHands(chords).map(({ hands }) => hands);

/**
 * The line of a chord cut before its `cut`-th pitch: in the middle of the gap, or between the hands where one plays
 * all of it.
 */
function lineAt(pitches: readonly number[], cut: number, between: number): number {
  const [below, above] = [pitches.at(cut - 1), pitches.at(cut)];
  if (cut === 0) return Math.min(between, pitches[0] - 0.5);
  if (cut === pitches.length || above === undefined) return Math.max(between, pitches[cut - 1] + 0.5);
  return ((below ?? above) + above) / 2;
}

/**
 * How many of some rising pitches the left hand plays where that costs least: the distances of all from their hand's
 * place, and what a hand would have to reach too far.
 */
function bestCut(pitches: readonly number[], { left, right }: { left: number; right: number }): number {
  const stretch = (from: number, to: number) =>
    to > from ? 12 * Math.max(0, pitches[to - 1] - pitches[from] - REACH) : 0;
  let [below, above] = [0, pitches.reduce((sum, pitch) => sum + Math.abs(pitch - right), 0)];
  let [best, cut] = [Infinity, 0];
  for (let count = 0; count <= pitches.length; count++) {
    const cost = below + above + stretch(0, count) + stretch(count, pitches.length);
    if (cost < best - ROUNDING) [best, cut] = [cost, count];
    if (count === pitches.length) break;
    below += Math.abs(pitches[count] - left);
    above -= Math.abs(pitches[count] - right);
  }
  return cut;
}

function followed(place: number, pitches: readonly number[]): number {
  if (pitches.length === 0) return place;
  const mean = pitches.reduce((sum, pitch) => sum + pitch, 0) / pitches.length;
  return place + FOLLOWS * (mean - place);
}
