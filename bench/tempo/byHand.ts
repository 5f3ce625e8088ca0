import {
  NO_HINTS,
  createTimeline,
  doubledBeats,
  findBeats,
  halvedBeats,
  noteTableOf,
  onsetEventsOf,
  shiftedBeats,
  withTaps,
  type FoundBeats,
} from '@ordle/core';
import type { BenchRow } from '../core';
import { createRandom } from './random';
import { fMeasure } from './score';

/** Music and where its beats were meant. */
interface Tapped {
  notes: Parameters<typeof findBeats>[0];
  beats: Float64Array;
}

const tempo = createTimeline({ kind: 'metrical', ticksPerQuarter: 960 }, [], []).tempo;

/** Lags of a hand in seconds, and how its taps scatter about them. */
const LAGS = [0, 0.05, 0.1, 0.15, 0.2];
const SCATTER = 0.025;
/** Every so-manieth performance is tapped along to. */
const TAPPED = 4;
/** So many beats are tapped in the middle, so late, where the rest is to follow from them; and what that reaches. */
const [SOME, SOME_LATE, REST_REACHES] = [12, 0.1, 0.94];
const REST = `the whole piece of ${SOME} beats tapped in its middle`;

const halfway = (beats: Float64Array): number[] =>
  [...beats].slice(1).map((at, beat) => (at + beats[beat]) / 2);

const standing = (beats: Iterable<number>): FoundBeats => ({
  ...findBeats(noteTableOf([]), tempo),
  beats: Float64Array.from(beats),
  downbeats: [0],
});
/**
 * What mending by hand comes to where the beats that stand are right but for their level or phase, and what tapping
 * along comes to, however late the hand is.
 */
export function benchByHand(performances: readonly Tapped[], whose: string): BenchRow[] {
  const scores: Record<string, number[]> = {};
  const score = (work: string, found: Iterable<number>, meant: Float64Array) =>
    (scores[work] ??= []).push(fMeasure([...found], meant));
  performances.forEach(({ notes, beats }, at) => {
    const strokes = onsetEventsOf(notes, tempo);
    const off = standing(halfway(beats));
    const shifted = shiftedBeats(NO_HINTS, off, strokes);
    score('shift: on the off-beat before', shifted.laid ?? [], beats);
    const back = shiftedBeats(shifted, standing(shifted.laid ?? []), strokes);
    score('shift, pressed back', back.laid ?? [], off.beats);
    const slow = standing(beats.filter((_, beat) => beat % 2 === 0));
    score('double: half as many before', doubledBeats(NO_HINTS, slow, strokes).laid ?? [], beats);
    const fast = standing([...beats, ...halfway(beats)].sort((a, b) => a - b));
    const halved = halvedBeats(NO_HINTS, fast);
    score('halve: twice as many before', halved.laid ?? [], beats);
    const random = createRandom(at + 1);
    const found = findBeats(notes, tempo);
    const tapped = (some: Float64Array, lag: number) => {
      const taps = [...some].map((each) => each + lag + SCATTER * random.normal()).sort((a, b) => a - b);
      return findBeats(notes, tempo, withTaps(NO_HINTS, found, taps, strokes).pulse).beats;
    };
    const first = Math.max(0, Math.floor((beats.length - SOME) / 2));
    score(REST, tapped(beats.subarray(first, first + SOME), SOME_LATE), beats);
    if (at % TAPPED !== 0) return;
    for (const lag of LAGS) score(`taps ${1000 * lag} ms late`, tapped(beats, lag), beats);
  });
  return Object.entries(scores).map(([work, values]) => {
    const worst = Math.min(...values);
    const mean = values.reduce((sum, value) => sum + value, 0) / values.length;
    const reach = work === REST ? REST_REACHES : 0.99;
    return {
      work: `${work}, ${values.length} ${whose}`,
      ours: mean.toFixed(3),
      peer: `worst ${worst.toFixed(3)}`,
      reach: `at least ${reach}`,
      met: mean >= reach,
    };
  });
}
