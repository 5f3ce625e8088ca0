import { DRUM_CHANNEL } from '../midi';
import type { NoteTable } from '../model';
import { barAt, barNumbered, lastAtOrBefore, type Timeline } from '../time';
import { CHORDS, chordFit, chordName } from './chordNames';
import { ALL_KEYS, keyFit } from './key';

/** A chord that holds from one tick up to another. */
export interface HeardChord {
  from: number;
  to: number;
  name: string;
  /** The pitch classes that sound are of it: 0-1. */
  fit: number;
}

/** A key that holds from one bar on (from 1), up to the next. */
export interface HeardKey {
  bar: number;
  key: string;
  /** Correlation with its profile, -1 to 1. */
  fit: number;
}

export interface Harmony {
  chords: HeardChord[];
  keys: HeardKey[];
}

/** A chord holds on unless another explains its beat better by this much; a key, its bars. */
const [CHORD_STAYS, KEY_STAYS] = [0.28, 1.1];
/** How much it counts for the key of a bar what the whole is in. */
const WHOLE_COUNTS = 0.5;
/** Bars on either side that count for the key of a bar, by half as much each. */
const KEY_REACH = 2;
/** A beat in which less sounds than this share of it has no chord of its own. */
const LEAST_SOUND = 0.15;
/** Notes this little before a beat, in quarters, are meant for it. */
const EARLY = 1 / 16;

/**
 * The chords and keys of some notes along the bars: for each beat the pitch classes by how long they sound in it, and
 * the path through all chords that explains all beats with few changes (Viterbi 1967 over chords with a price for
 * each change); keys bar by bar in the same way over the profiles of Krumhansl and Kessler. Drums are left out.
 */
export function harmonyOf(tables: readonly NoteTable[], timeline: Timeline): Harmony {
  const beats = beatsUnder(tables, timeline);
  if (beats.starts.length === 0) return { chords: [], keys: [] };
  const { sounding, bass } = soundOfBeats(tables, beats, timeline.ticksPerQuarter);
  const keys = keysOf(sounding, beats.bars);
  return { chords: chordsOf(sounding, bass, beats, keys), keys };
}

/** Beats are looked at one by one as far as this; what lies beyond so many has no chords. */
const MOST_BEATS = 200_000;

/**
 * Where beats begin and end, and the bar each is in, from 1. A silence is one long beat, however many it holds:
 * nothing changes in it, and so a gap of years costs no more than one of a bar.
 */
interface Beats {
  starts: Float64Array;
  ends: Float64Array;
  bars: Int32Array;
}

function beatsUnder(tables: readonly NoteTable[], timeline: Timeline): Beats {
  const { meter } = timeline;
  const early = EARLY * timeline.ticksPerQuarter;
  const [starts, ends, bars]: number[][] = [[], [], []];
  let reached = 0;
  const put = (start: number, end: number, bar: number) => {
    starts.push(start);
    ends.push(end);
    bars.push(bar);
    reached = end;
  };
  for (const [from, to] of soundingStretches(tables, early)) {
    let { number } = barAt(meter, Math.max(0, from));
    for (; starts.length < MOST_BEATS; number++) {
      const { start, end, row } = barNumbered(meter, number);
      if (start >= to - 1e-6) break;
      // Beats of 6/8 and the like are dotted: what changes there changes by threes.
      const compound = meter.denominator[row] >= 8 && meter.numerator[row] % 3 === 0;
      const beat = meter.beatTicks[row] * (compound ? 3 : 1);
      // Bars are gone through whole, so that each of their beats is there once.
      if (start < reached - 1e-6) continue;
      if (start > reached + 1e-6) put(reached, start, barAt(meter, reached + 1e-6).number);
      for (let at = start; at < end - 1e-6; at += beat) put(at, Math.min(at + beat, end), number);
    }
  }
  return { starts: Float64Array.from(starts), ends: Float64Array.from(ends), bars: Int32Array.from(bars) };
}

/** The stretches of time in which anything but drums sounds, in order, none over another. */
function soundingStretches(tables: readonly NoteTable[], early: number): [number, number][] {
  const all: [number, number][] = [];
  for (const { length, start, end, channel } of tables)
    for (let row = 0; row < length; row++)
      if (channel[row] !== DRUM_CHANNEL)
        all.push([start[row] + early, Math.max(end[row], start[row] + early)]);
  all.sort((a, b) => a[0] - b[0]);
  const merged: [number, number][] = [];
  for (const [from, to] of all) {
    const last = merged.at(-1);
    if (last && from <= last[1]) last[1] = Math.max(last[1], to);
    else merged.push([from, to]);
  }
  return merged;
}

/**
 * For each beat how long each pitch class sounds in it, as a share of the beat, and the lowest pitch that sounds for
 * a while.
 */
function soundOfBeats(tables: readonly NoteTable[], { starts, ends }: Beats, ticksPerQuarter: number) {
  const count = starts.length;
  const sounding = Array.from({ length: count }, () => new Float64Array(12));
  const bass = new Uint8Array(count).fill(255);
  const early = EARLY * ticksPerQuarter;
  for (const { length, start, end, pitch, channel } of tables) {
    for (let row = 0; row < length; row++) {
      if (channel[row] === DRUM_CHANNEL) continue;
      let beat = lastAtOrBefore(starts, start[row] + early);
      for (; beat < count && starts[beat] < end[row]; beat++) {
        const share =
          (Math.min(end[row], ends[beat]) - Math.max(start[row], starts[beat])) / (ends[beat] - starts[beat]);
        if (share <= 0) continue;
        sounding[beat][pitch[row] % 12] += share;
        if (share >= 0.2 && pitch[row] < bass[beat]) bass[beat] = pitch[row];
      }
    }
  }
  return { sounding, bass };
}

function chordsOf(
  sounding: readonly Float64Array[],
  bass: Uint8Array,
  { starts, ends, bars }: Beats,
  keys: readonly HeardKey[],
): HeardChord[] {
  const shares = sounding.map((weights) => {
    const sum = weights.reduce((all, each) => all + each, 0);
    return sum < LEAST_SOUND ? null : weights.map((weight) => weight / sum);
  });
  // Where nothing sounds, whatever was before holds.
  const path = likeliestPath(
    shares.length,
    CHORDS.length,
    (beat, chord) => {
      const share = shares[beat];
      return share ? chordFit(CHORDS[chord], share, bass[beat] % 12) : 0;
    },
    CHORD_STAYS,
  );
  const chords: (HeardChord & { chord: number; beats: number })[] = [];
  path.forEach((chord, beat) => {
    const share = shares[beat];
    const before = chords.at(-1);
    const goesOn = before && before.chord === chord && before.to === starts[beat];
    if (!share) {
      if (goesOn) before.to = ends[beat];
      return;
    }
    const fit = Math.max(0, chordFit(CHORDS[chord], share, CHORDS[chord].root));
    const own = bass[beat] === 255 ? CHORDS[chord].root : bass[beat] % 12;
    const key = (keys.findLast(({ bar }) => bar <= bars[beat]) ?? keys[0])?.key ?? null;
    if (goesOn) {
      before.fit += Math.min(1, fit);
      before.beats++;
      before.to = ends[beat];
    } else
      chords.push({
        from: starts[beat],
        to: ends[beat],
        name: chordName(CHORDS[chord], isOfChord(chord, own) ? own : CHORDS[chord].root, key),
        fit: Math.min(1, fit),
        chord,
        beats: 1,
      });
  });
  return chords.map(({ from, to, name, fit, beats }) => ({ from, to, name, fit: fit / beats }));
}

/** Whether a pitch class belongs to a chord: a bass that does not is a note on its way. */
const isOfChord = (chord: number, pitchClass: number): boolean => {
  const alone = new Float64Array(12);
  alone[pitchClass] = 1;
  return chordFit(CHORDS[chord], alone, -1) > -0.6;
};

/** Neighbouring bars that sound alike for the key: what sounds in and around them, and how many there are. */
interface BarRun {
  bar: number;
  count: number;
  weights: Float64Array;
}

function barRunsOf(
  sounding: readonly Float64Array[],
  bars: Int32Array,
): { own: Map<number, Float64Array>; runs: BarRun[] } {
  const own = new Map<number, Float64Array>();
  sounding.forEach((weights, beat) => {
    const sum = own.get(bars[beat]) ?? new Float64Array(12);
    for (let each = 0; each < 12; each++) sum[each] += weights[each];
    own.set(bars[beat], sum);
  });
  const last = bars.at(-1) ?? 0;
  // Bars within reach of one in which anything sounds stand for themselves, all between them are one run.
  const near = new Set<number>();
  for (const [bar, weights] of own)
    if (weights.some((weight) => weight > 0))
      for (let off = -KEY_REACH; off <= KEY_REACH; off++)
        if (bar + off >= 1 && bar + off <= last) near.add(bar + off);
  const runs: BarRun[] = [];
  let next = 1;
  for (const bar of [...near].sort((a, b) => a - b)) {
    if (bar > next) runs.push({ bar: next, count: bar - next, weights: new Float64Array(12) });
    const weights = new Float64Array(12);
    for (let off = -KEY_REACH; off <= KEY_REACH; off++) {
      const around = own.get(bar + off);
      for (let each = 0; each < 12; each++) weights[each] += (around?.[each] ?? 0) / 2 ** Math.abs(off);
    }
    runs.push({ bar, count: 1, weights });
    next = bar + 1;
  }
  if (next <= last) runs.push({ bar: next, count: last + 1 - next, weights: new Float64Array(12) });
  return { own, runs };
}

function keysOf(sounding: readonly Float64Array[], bars: Int32Array): HeardKey[] {
  const { own, runs } = barRunsOf(sounding, bars);
  const fits = runs.map(({ weights }) => ALL_KEYS.map((key) => keyFit(weights, key) || 0));
  // Of keys that fit some bars alike, such as relatives, the one that fits all of it is meant.
  const all = new Float64Array(12);
  for (const weights of own.values()) for (let each = 0; each < 12; each++) all[each] += weights[each];
  const whole = ALL_KEYS.map((key) => keyFit(all, key) || 0);
  const path = likeliestPath(
    runs.length,
    ALL_KEYS.length,
    (run, key) => runs[run].count * (fits[run][key] + WHOLE_COUNTS * whole[key]),
    KEY_STAYS,
  );
  const keys: HeardKey[] = [];
  path.forEach((key, run) => {
    const name = ALL_KEYS[key].name;
    if (keys.at(-1)?.key !== name) keys.push({ bar: runs[run].bar, key: name, fit: fits[run][key] });
  });
  return keys;
}

/** Of all paths through states the one whose scores together, less `price` for each change, are greatest. */
function likeliestPath(
  length: number,
  states: number,
  score: (at: number, state: number) => number,
  price: number,
): Int16Array {
  const path = new Int16Array(length);
  if (length === 0) return path;
  let sums = Float64Array.from({ length: states }, (_, state) => score(0, state));
  const from: Int16Array[] = [];
  for (let at = 1; at < length; at++) {
    let best = 0;
    for (let state = 1; state < states; state++) if (sums[state] > sums[best]) best = state;
    const next = new Float64Array(states);
    const back = new Int16Array(states);
    for (let state = 0; state < states; state++) {
      const stays = sums[state] >= sums[best] - price;
      back[state] = stays ? state : best;
      next[state] = (stays ? sums[state] : sums[best] - price) + score(at, state);
    }
    from.push(back);
    sums = next;
  }
  let state = 0;
  for (let each = 1; each < states; each++) if (sums[each] > sums[state]) state = each;
  for (let at = length - 1; at >= 0; at--) {
    path[at] = state;
    if (at > 0) state = from[at - 1][state];
  }
  return path;
}
