import { MOST_IN_CHORD, type Chords, type Grouped, type PlayedNotes } from './chords';
import type { Score } from './score';

/** What strokes gain and cost beside a written chord; found by trial on performances whose written notes are known. */
const COMMON = 1.6;
/** A stroke a step or an octave off a written note that is not there otherwise. */
const NEARLY = 0.1;
export const EXTRA = -0.55;
export const MISSING = -0.45;

/** What groups of strokes have in common with written chords. */
export function createGains(playing: PlayedNotes, groups: Grouped, score: Score, chords: Chords) {
  const gains = {
    /** The notes of the chord that were found by the last `of`, a bit each, with those that were before. */
    mask: 0,
    /** How many notes of a chord are looked at. */
    sizeOf: (chord: number): number => Math.min(MOST_IN_CHORD, chords.from[chord + 1] - chords.from[chord]),
    /** What the notes of a chord cost that are not in a mask. */
    missing: (chord: number, mask: number): number => MISSING * (gains.sizeOf(chord) - bits(mask)),
    /** What a group gains as a chord whose notes in `used` were played already. */
    of(group: number, chord: number, used: number): number {
      const [first, size] = [chords.from[chord], gains.sizeOf(chord)];
      const [from, to] = [groups.from[group], groups.from[group + 1]];
      let [mask, extra, gain] = [used, 0, 0];
      for (let row = from; row < to; row++) {
        const found = freeNote(playing.pitch[row], first, size, mask);
        if (found < 0) extra++;
        else {
          mask |= 1 << found;
          gain += COMMON;
        }
      }
      gains.mask = mask >>> 0;
      const most = Math.min(extra, size - bits(mask));
      let nearly = 0;
      for (let row = from; row < to && nearly < most; row++)
        if (isNearFree(playing.pitch[row], first, size, mask)) nearly++;
      return gain + nearly * NEARLY + (extra - nearly) * EXTRA;
    },
  };
  /** The note of a chord with a pitch that is not in a mask; -1 without one. */
  function freeNote(pitch: number, first: number, size: number, mask: number): number {
    for (let note = 0; note < size; note++)
      if (score.pitch[first + note] === pitch && ((mask >>> note) & 1) === 0) return note;
    return -1;
  }
  function isNearFree(pitch: number, first: number, size: number, mask: number): boolean {
    for (let note = 0; note < size; note++) {
      const off = Math.abs(score.pitch[first + note] - pitch);
      if ((off === 1 || off === 2 || off === 12) && ((mask >>> note) & 1) === 0) return true;
    }
    return false;
  }
  return gains;
}

/** How many bits of a mask are set. */
export function bits(mask: number): number {
  let count = 0;
  for (let left = mask; left !== 0; left &= left - 1) count++;
  return count;
}
