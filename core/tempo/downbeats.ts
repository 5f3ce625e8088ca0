import type { NoteTable } from '../model';
import { DRUM_CHANNEL } from '../midi';
import { firstAtOrAfter, ticksToSeconds, type TempoMap } from '../time';
import type { OnsetEvents } from './onsetEvents';

/** Where bars begin among beats, and how many beats a bar has most of the time. */
export interface Bars {
  /** Numbers of the beats that begin a bar. */
  downbeats: number[];
  beatsPerBar: number;
}

/** A stroke is a beat's where it is nearer than this: seconds. */
const NEAR = 0.06;
/** What speaks for a downbeat, and how much (logistic weights, tuned on performances of our own). */
const WEIGHTS = { bias: -1.14, strength: 3.8, change: 1.37, kick: 1, snare: -1.72 };
/** Costs of a bar cut short or drawn out, and of another meter. */
const COSTS = { broken: 7.7, otherMeter: 9 };

/**
 * The downbeats: for each beat how much speaks for it (the strength of its stroke, harmonies that change there, bass
 * drum and snare), then the likeliest run of bars of one of the meters given (beats a bar), by Viterbi.
 */
export function findDownbeats(
  beats: Float64Array,
  events: OnsetEvents,
  notes: NoteTable,
  tempo: TempoMap,
  meters: readonly number[],
): Bars {
  if (beats.length === 0) return { downbeats: [], beatsPerBar: meters[0] };
  const odds = oddsOf(beats, events, harmoniesOf(beats, notes, tempo));
  const states = meters.flatMap((meter) => Array.from({ length: meter }, (_, place) => ({ meter, place })));
  let score = states.map(({ meter }): number => (meter === 4 ? 0.3 : 0));
  const back: Int16Array[] = [];
  for (let beat = 0; beat < beats.length; beat++) {
    // Logarithms of the chances that it is a downbeat, and that it is none.
    const [yes, no] = [-Math.log1p(Math.exp(-odds[beat])), -Math.log1p(Math.exp(odds[beat]))];
    const from = new Int16Array(states.length);
    score = states.map(({ meter, place }, state) => {
      let best = -Infinity;
      states.forEach((before, other) => {
        const next = (before.place + 1) % before.meter;
        const own =
          beat === 0
            ? other === state
              ? score[other]
              : -Infinity
            : before.meter === meter
              ? score[other] - (next === place ? 0 : COSTS.broken)
              : place === 0 && next === 0
                ? score[other] - COSTS.otherMeter
                : -Infinity;
        if (own > best) [best, from[state]] = [own, other];
      });
      return best + (place === 0 ? yes : no);
    });
    back.push(from);
  }
  let state = score.indexOf(Math.max(...score));
  const downbeats: number[] = [];
  const counts = new Map<number, number>();
  for (let beat = beats.length - 1; beat >= 0; beat--) {
    const { meter, place } = states[state];
    if (place === 0) downbeats.push(beat);
    counts.set(meter, (counts.get(meter) ?? 0) + 1);
    state = back[beat][state];
  }
  const [[beatsPerBar]] = [...counts].sort((a, b) => b[1] - a[1]);
  return { downbeats: downbeats.reverse(), beatsPerBar };
}

function oddsOf(beats: Float64Array, events: OnsetEvents, harmonies: Float64Array[]): number[] {
  return Array.from(beats, (at, beat) => {
    let [strength, kick, snare] = [0, 0, 0];
    for (let event = firstAtOrAfter(events.time, at - NEAR); event < events.length; event++) {
      if (events.time[event] > at + NEAR) break;
      strength = Math.max(strength, events.strength[event]);
      kick = Math.max(kick, events.kick[event] / 127);
      snare = Math.max(snare, events.snare[event] / 127);
    }
    const change = beat > 0 ? distance(harmonies[beat], harmonies[beat - 1]) : 0.5;
    return (
      WEIGHTS.bias +
      WEIGHTS.strength * (strength - 0.5) +
      WEIGHTS.change * (change - 0.3) +
      WEIGHTS.kick * kick +
      WEIGHTS.snare * snare
    );
  });
}

/** What sounds in each beat by pitch class: seconds, low notes counted more. */
function harmoniesOf(beats: Float64Array, notes: NoteTable, tempo: TempoMap): Float64Array[] {
  const found = Array.from(beats, () => new Float64Array(12));
  for (let row = 0; row < notes.length; row++) {
    if (notes.channel[row] === DRUM_CHANNEL) continue;
    const [start, end] = [notes.start[row], notes.end[row]].map((tick) => ticksToSeconds(tempo, tick));
    const weight = notes.pitch[row] < 55 ? 2 : 1;
    for (let beat = Math.max(0, firstAtOrAfter(beats, start + NEAR) - 1); beat < beats.length; beat++) {
      const from = beats[beat] - NEAR;
      if (from >= end) break;
      const to = beat + 1 < beats.length ? beats[beat + 1] - NEAR : Infinity;
      const shared = Math.min(end, to) - Math.max(start, from);
      // A tail that is held over counts little against what is struck.
      if (shared > 0) found[beat][notes.pitch[row] % 12] += weight * shared * (start >= from ? 1 : 0.5);
    }
  }
  return found;
}

/** 1 minus the cosine of two harmonies: 0 alike, 1 nothing in common; a half where one is silent. */
function distance(one: Float64Array, other: Float64Array): number {
  let [both, own, its] = [0, 0, 0];
  for (let pitchClass = 0; pitchClass < 12; pitchClass++) {
    both += one[pitchClass] * other[pitchClass];
    own += one[pitchClass] ** 2;
    its += other[pitchClass] ** 2;
  }
  return own === 0 || its === 0 ? 0.5 : 1 - both / Math.sqrt(own * its);
}
