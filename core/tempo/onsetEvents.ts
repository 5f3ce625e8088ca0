import { DRUM_CHANNEL } from '../midi';
import type { NoteTable } from '../model';
import { ticksToSeconds, type TempoMap } from '../time';

/**
 * Notes that start together: one after the other by less than `STEP`, the last less than `SPAN` after the first.
 * Seconds.
 */
const STEP = 0.035;
const SPAN = 0.07;
/** Ranks are taken among the events within so many seconds on either side. */
const REACH = 4;
/** Lengths count up to this: longer is no stronger. Seconds. */
const LONGEST = 3;
const WEIGHTS = { sum: 0.9, low: 1, long: 1.6, loud: 0.3, drum: 0.95 };
/** How much soft pieces of a kit (hats, shakers) count against others. */
const SOFT = 0.4;

/** Strokes heard as one, in order of time. Columns, a row an event. */
export interface OnsetEvents {
  readonly length: number;
  /** Velocity-weighted mean of the starts, in seconds. */
  time: Float64Array;
  /** 0 to 1: how much it stands out among its neighbours. */
  strength: Float64Array;
  /** A bit for each pitch class that starts in it, without drums; and the lowest of their pitches, 128 for none. */
  pitchClasses: Uint16Array;
  lowest: Uint8Array;
  /** Greatest velocity of a bass drum and of a snare in it, 0 for none. */
  kick: Float64Array;
  snare: Float64Array;
  /** Summed velocity, soft pieces of a kit counted less. */
  weight: Float64Array;
}

const isKick = (pitch: number) => pitch === 35 || pitch === 36;
const isSnare = (pitch: number) => pitch === 38 || pitch === 40;
const isStrong = (pitch: number) => isKick(pitch) || isSnare(pitch) || pitch === 49 || pitch === 57;

/** What a stroke counts as in lowness: drums by their part in the beat, the bass drum like a low note. */
function lownessOf(pitch: number, isDrum: boolean): number {
  if (!isDrum) return pitch;
  return isKick(pitch) ? 36 : isSnare(pitch) ? 60 : 84;
}

/**
 * The onset events of a performance. Their strength is a weighted sum of ranks among the events around: summed
 * velocity, lowness of the lowest note, length of the longest, greatest velocity, and the part a drum has in the
 * beat. Ranks instead of values are deaf to how loud or dense the music is.
 */
export function onsetEventsOf(notes: NoteTable, tempo: TempoMap): OnsetEvents {
  const start = Float64Array.from(notes.start, (tick) => ticksToSeconds(tempo, tick));
  const firsts: number[] = [];
  for (let row = 0; row < start.length; row++) {
    const first = firsts.at(-1);
    if (first === undefined || start[row] - start[row - 1] >= STEP || start[row] - start[first] >= SPAN)
      firsts.push(row);
  }
  const length = firsts.length;
  const events: OnsetEvents = {
    length,
    time: new Float64Array(length),
    strength: new Float64Array(length),
    pitchClasses: new Uint16Array(length),
    lowest: new Uint8Array(length).fill(128),
    kick: new Float64Array(length),
    snare: new Float64Array(length),
    weight: new Float64Array(length),
  };
  const low = new Float64Array(length);
  const long = new Float64Array(length);
  const loud = new Float64Array(length);
  firsts.forEach((first, event) => {
    const end = firsts.at(event + 1) ?? start.length;
    let [moment, velocities, lowness, longest] = [0, 0, 128, 0];
    for (let row = first; row < end; row++) {
      const [pitch, velocity] = [notes.pitch[row], notes.velocity[row]];
      const isDrum = notes.channel[row] === DRUM_CHANNEL;
      moment += start[row] * velocity;
      velocities += velocity;
      events.weight[event] += isDrum && !isStrong(pitch) ? SOFT * velocity : velocity;
      loud[event] = Math.max(loud[event], velocity);
      lowness = Math.min(lowness, lownessOf(pitch, isDrum));
      if (isDrum) {
        if (isKick(pitch)) events.kick[event] = Math.max(events.kick[event], velocity);
        if (isSnare(pitch)) events.snare[event] = Math.max(events.snare[event], velocity);
        continue;
      }
      events.pitchClasses[event] |= 1 << (pitch % 12);
      events.lowest[event] = Math.min(events.lowest[event], pitch);
      longest = Math.max(longest, ticksToSeconds(tempo, notes.end[row]) - start[row]);
    }
    events.time[event] = velocities > 0 ? moment / velocities : start[first];
    low[event] = -lowness;
    long[event] = Math.log(Math.min(LONGEST, Math.max(0.03, longest)));
  });
  const total = WEIGHTS.sum + WEIGHTS.low + WEIGHTS.long + WEIGHTS.loud + WEIGHTS.drum;
  const add = (values: Float64Array, weight: number) => {
    const ranks = ranksOf(values, events.time);
    for (let event = 0; event < length; event++) events.strength[event] += (weight / total) * ranks[event];
  };
  add(events.weight, WEIGHTS.sum);
  add(low, WEIGHTS.low);
  add(long, WEIGHTS.long);
  add(loud, WEIGHTS.loud);
  add(
    events.snare.map((snare, event) => drumRole(events.kick[event], snare)),
    WEIGHTS.drum,
  );
  return { ...events, strength: ranksOf(events.strength, events.time) };
}

/** A bass drum is rather the beat, a snare alone the answer to it, which may come half a beat later. */
const drumRole = (kick: number, snare: number): number => (kick > 0 ? 1 : snare > 0 ? -1 : 0);

/**
 * The share of the values around that each is above, ties counted half: 0 to 1, evenly spread whatever the values
 * are.
 */
function ranksOf(values: Float64Array, time: Float64Array): Float64Array {
  let [first, end] = [0, 0];
  return values.map((value, event) => {
    while (time[first] < time[event] - REACH) first++;
    while (end < time.length && time[end] <= time[event] + REACH) end++;
    let [below, equal] = [0, 0];
    for (let other = first; other < end; other++) {
      if (values[other] < value) below++;
      else if (values[other] === value) equal++;
    }
    return (below + equal / 2) / (end - first);
  });
}
