import { DRUM_CHANNEL } from '../midi';
import type { NoteTable } from '../model';
import { barNumbered, lastAtOrBefore, type Timeline } from '../time';
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
 * The chords and keys of some notes along the bars: for each beat the pitch classes by how long they sound in it, and the path through all chords that explains all beats
 * with few changes (Viterbi 1967 over chords with a price for each change); keys bar by bar in the same way over the profiles of Krumhansl and Kessler. Drums are left out.
 */
export function harmonyOf(tables: readonly NoteTable[], timeline: Timeline): Harmony {
  const last = tables.reduce((most, { end, length }) => {
    let latest = most;
    for (let row = 0; row < length; row++) latest = Math.max(latest, end[row]);
    return latest;
  }, 0);
  const beats = beatsUpTo(last, timeline);
  if (beats.starts.length < 2) return { chords: [], keys: [] };
  const { sounding, bass } = soundOfBeats(tables, beats.starts, timeline.ticksPerQuarter);
  const keys = keysOf(sounding, beats.bars);
  return { chords: chordsOf(sounding, bass, beats, keys), keys };
}

/** Where beats begin, one more at the end, and the bar each is in, from 1. */
interface Beats {
  starts: Float64Array;
  bars: Int32Array;
}

function beatsUpTo(last: number, { meter }: Timeline): Beats {
  const starts: number[] = [];
  const bars: number[] = [];
  for (let number = 1; ; number++) {
    const { start, end, row } = barNumbered(meter, number);
    if (start >= last - 1e-6) break;
    // Beats of 6/8 and the like are dotted: what changes there changes by threes.
    const compound = meter.denominator[row] >= 8 && meter.numerator[row] % 3 === 0;
    const beat = meter.beatTicks[row] * (compound ? 3 : 1);
    for (let at = start; at < end - 1e-6; at += beat) {
      starts.push(at);
      bars.push(number);
    }
  }
  const { end } = barNumbered(meter, bars.at(-1) ?? 1);
  return { starts: Float64Array.from([...starts, end]), bars: Int32Array.from(bars) };
}

/** For each beat how long each pitch class sounds in it, as a share of the beat, and the lowest pitch that sounds for a while. */
function soundOfBeats(tables: readonly NoteTable[], starts: Float64Array, ticksPerQuarter: number) {
  const count = starts.length - 1;
  const sounding = Array.from({ length: count }, () => new Float64Array(12));
  const bass = new Uint8Array(count).fill(255);
  const early = EARLY * ticksPerQuarter;
  for (const { length, start, end, pitch, channel } of tables) {
    for (let row = 0; row < length; row++) {
      if (channel[row] === DRUM_CHANNEL) continue;
      let beat = lastAtOrBefore(starts, start[row] + early);
      for (; beat < count && starts[beat] < end[row]; beat++) {
        const beatLength = starts[beat + 1] - starts[beat];
        const share =
          (Math.min(end[row], starts[beat + 1]) - Math.max(start[row], starts[beat])) / beatLength;
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
  { starts, bars }: Beats,
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
      if (goesOn) before.to = starts[beat + 1];
      return;
    }
    const fit = Math.max(0, chordFit(CHORDS[chord], share, CHORDS[chord].root));
    const own = bass[beat] === 255 ? CHORDS[chord].root : bass[beat] % 12;
    const key = (keys.findLast(({ bar }) => bar <= bars[beat]) ?? keys[0])?.key ?? null;
    if (goesOn) {
      before.fit += Math.min(1, fit);
      before.beats++;
      before.to = starts[beat + 1];
    } else
      chords.push({
        from: starts[beat],
        to: starts[beat + 1],
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

function keysOf(sounding: readonly Float64Array[], bars: Int32Array): HeardKey[] {
  const count = bars.at(-1) ?? 0;
  const ofBars = Array.from({ length: count }, () => new Float64Array(12));
  sounding.forEach((weights, beat) => {
    for (let each = 0; each < 12; each++) ofBars[bars[beat] - 1][each] += weights[each];
  });
  const around = ofBars.map((_, bar) => {
    const sum = new Float64Array(12);
    for (let off = -KEY_REACH; off <= KEY_REACH; off++) {
      const weights = ofBars[bar + off] as Float64Array | undefined;
      for (let each = 0; each < 12; each++) sum[each] += (weights?.[each] ?? 0) / 2 ** Math.abs(off);
    }
    return sum;
  });
  const fits = around.map((weights) => ALL_KEYS.map((key) => keyFit(weights, key) || 0));
  // Of keys that fit some bars alike, such as relatives, the one that fits all of it is meant.
  const all = new Float64Array(12);
  for (const weights of ofBars) for (let each = 0; each < 12; each++) all[each] += weights[each];
  const whole = ALL_KEYS.map((key) => keyFit(all, key) || 0);
  const path = likeliestPath(
    count,
    ALL_KEYS.length,
    (bar, key) => fits[bar][key] + WHOLE_COUNTS * whole[key],
    KEY_STAYS,
  );
  const keys: HeardKey[] = [];
  path.forEach((key, bar) => {
    const name = ALL_KEYS[key].name;
    if (keys.at(-1)?.key !== name) keys.push({ bar: bar + 1, key: name, fit: fits[bar][key] });
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
