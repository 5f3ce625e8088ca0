export type Hand = 'left' | 'right';

/** Semitones one hand reaches (common practice: an octave and a little). */
const REACH = 14;
/** How fast the place of a hand follows what it plays, 0-1. */
const FOLLOWS = 0.3;

/**
 * Which hand plays each note of each chord, by a split that follows the music: each hand has a place on the keyboard that follows what it
 * plays, and a chord is cut where its notes lie nearest to those places, with neither hand reaching further than it can. Hands do not cross
 * within a chord. A model of our own; no published source.
 */
export function handsOf(chords: readonly (readonly number[])[]): Hand[][] {
  const places = { left: 48, right: 67 };
  return chords.map((chord) => {
    const order = [...chord.keys()].sort((a, b) => chord[a] - chord[b]);
    const pitches = order.map((place) => chord[place]);
    let [best, cut] = [Infinity, 0];
    for (let count = 0; count <= pitches.length; count++) {
      const cost = costOf(pitches.slice(0, count), places.left) + costOf(pitches.slice(count), places.right);
      if (cost < best) [best, cut] = [cost, count];
    }
    places.left = followed(places.left, pitches.slice(0, cut));
    places.right = followed(places.right, pitches.slice(cut));
    const hands = new Array<Hand>(chord.length);
    order.forEach((place, rank) => (hands[place] = rank < cut ? 'left' : 'right'));
    return hands;
  });
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
