import { firstAtOrAfter } from '../time';
import { COLUMN, PERIOD_STEP, STRENGTHS, TUNED, type BeatModel } from './beatModel';
import type { OnsetEvents } from './onsetEvents';

/** Seconds between places where a beat is tried. */
const FRAME = 0.02;
/**
 * Deviation of a change of period at a beat, as the logarithm of the ratio; beyond two of them it costs by its size,
 * so that a fermata is possible.
 */
const CHANGE = 0.04;
/** How late after the first stroke the first beat may be, in seconds, and how far ahead of it. */
const [LATEST_START, EARLIEST_START] = [8, 0.04];
/** States so much less likely than the best around them are given up. */
const PRUNED = 14;

/** What a person says of the beats, to be kept by whatever is found. */
export interface BeatHints {
  /** Times (seconds) that are beats. */
  beats?: readonly number[];
  /** From the first of these times to the second there are no beats but those. */
  only?: readonly (readonly [from: number, to: number])[];
  /** Least and greatest period of a beat, in seconds. */
  period?: readonly [least: number, most: number];
}

export interface BeatPath {
  /** Seconds. */
  beats: Float64Array;
  /** Which of the models each beat is divided by, up to the next; the last as the one before it. */
  models: Uint8Array;
}

/** How much less likely a beat is that is not where a person says one is. */
const HINT_COST = 400;
const HINT_REACH = 0.025;

/**
 * Longer performances are gone through in stretches of so many seconds, each from a beat shortly before the end of
 * the one before: memory goes by the length.
 */
const [STRETCH, OVERLAP] = [1200, 20];
/** After a silence as long as this, in seconds, no pulse goes on. */
const SILENCE = 60;
/** A silence as long as this is not searched: nothing in it says where beats are. They go through it evenly. */
const UNSEARCHED = 10;
/** Strokes between two such silences in which a pulse may be found, at least. */
const FEWEST = 3;

/**
 * The likeliest beats: dynamic programming over places and periods, where the period may change only at a beat.
 * `progress` is told shares of the work. Gives an empty path without strokes.
 */
export function likeliestPath(
  events: OnsetEvents,
  models: readonly BeatModel[],
  hints: BeatHints = {},
  progress: (share: number) => void = () => undefined,
): BeatPath {
  const { time, length } = events;
  if (length === 0) return { beats: new Float64Array(0), models: new Uint8Array(0) };
  const last = time[length - 1];
  const beats: number[] = [];
  const divided: number[] = [];
  let first = 0;
  const silences = silencesIn(time);
  let begun: number | null = null;
  while (first < length) {
    const limit: number = time[first] + STRETCH;
    const silent = silences.length > 0 ? (silences[firstAtOrAfter(silences, first + 1)] ?? length) : length;
    const long = last <= limit + OVERLAP ? length : firstAtOrAfter(time, limit, length);
    const isOver = silent <= long;
    const end: number = Math.min(silent, long);
    const stretch = { time: time.subarray(first, end), strength: events.strength.subarray(first, end) };
    const isAlone = isOver && begun === null && end - first < FEWEST && (hints.beats ?? []).length === 0;
    const path: BeatPath = isAlone
      ? lonePath(stretch.time, models[0])
      : pathOfStretch(stretch, models, hints, begun, (share) =>
          progress((stretch.time[0] + share * (time[end - 1] - stretch.time[0])) / Math.max(1e-9, last)),
        );
    const kept: Float64Array =
      isOver || end === length ? path.beats : path.beats.filter((at) => at < limit - OVERLAP);
    if (begun === null) beats.push(...through(beats, kept[0] ?? Infinity));
    while (divided.length < beats.length) divided.push(divided.at(-1) ?? 0);
    kept.forEach((at, beat) => {
      if (at <= (beats.at(-1) ?? -1) + 0.05) return;
      beats.push(at);
      divided.push(path.models[beat]);
    });
    if (end === length) break;
    if (isOver) {
      [first, begun] = [end, null];
      continue;
    }
    const next = kept.at(-1);
    const after: number = next === undefined ? end : firstAtOrAfter(time, next - EARLIEST_START, length);
    // After a long silence, or where nothing was found to go on from, a pulse begins anew.
    const goesOn: boolean =
      next !== undefined && next > (begun ?? -1) && after < length && time[after] - next < SILENCE;
    begun = goesOn ? (next ?? null) : null;
    first = goesOn
      ? after
      : Math.max(first + 1, next === undefined ? end : firstAtOrAfter(time, next + 0.05, length));
  }
  return { beats: Float64Array.from(beats), models: Uint8Array.from(divided) };
}

/** The strokes that a long silence comes before, by their numbers. */
function silencesIn(time: Float64Array): number[] {
  const after: number[] = [];
  for (let event = 1; event < time.length; event++)
    if (time[event] - time[event - 1] >= UNSEARCHED) after.push(event);
  return after;
}

/**
 * So few strokes between silences have no pulse that could be found: each is a beat, unless it comes too soon after
 * another.
 */
function lonePath(time: Float64Array, { periods }: BeatModel): BeatPath {
  const beats: number[] = [];
  for (const at of time) if (beats.length === 0 || at - beats[beats.length - 1] >= periods[0]) beats.push(at);
  return { beats: Float64Array.from(beats), models: new Uint8Array(beats.length) };
}

/**
 * Beats from the last one through a silence up to the next, as long as those before it, give or take what makes them
 * end there; none through a very long one.
 */
function through(beats: readonly number[], next: number): number[] {
  const last = beats.at(-1);
  const before = beats.at(-2);
  if (last === undefined || before === undefined || next - last >= SILENCE) return [];
  const count = Math.round((next - last) / (last - before));
  return Array.from(
    { length: Math.max(0, count - 1) },
    (_, beat) => last + ((next - last) * (beat + 1)) / count,
  );
}

/** The likeliest beats of one stretch; with `begun` the first of them lies there. */
function pathOfStretch(
  { time, strength }: Pick<OnsetEvents, 'time' | 'strength'>,
  models: readonly BeatModel[],
  hints: BeatHints,
  begun: number | null,
  progress: (share: number) => void,
): BeatPath {
  const events = { length: time.length };
  const { periods, stray } = models[0];
  /** A state is a period of a model; those of one stand after those of the other. */
  const perModel = periods.length;
  const count = perModel * models.length;
  const from = begun ?? Math.max(0, time[0] - EARLIEST_START);
  const last = time[events.length - 1];
  const frames = Math.ceil((last - from + periods[perModel - 1]) / FRAME) + 2;
  const value = new Float64Array(frames * count).fill(-Infinity);
  const exact = new Float64Array(frames * count);
  const back = new Int32Array(frames * count).fill(-1);
  const bestAt = new Float64Array(frames).fill(-Infinity);
  const changes = Float64Array.from({ length: perModel }, (_, steps) => costOfChange(steps));
  const hinted = Float64Array.from(hints.beats ?? []).sort();
  const isBarred = (at: number): boolean => {
    if (!(hints.only ?? []).some(([begin, end]) => at > begin + HINT_REACH && at < end - HINT_REACH))
      return false;
    const next = firstAtOrAfter(hinted, at - HINT_REACH);
    return next >= hinted.length || hinted[next] > at + HINT_REACH;
  };
  const begin = new Float64Array(count);
  const beginBack = new Int32Array(count);
  /** The periods that have come to a beat and may go on in a model: with how much, and from which state. */
  const alive = new Int32Array(perModel);
  const cameWith = new Float64Array(perModel);
  const cameFrom = new Int32Array(perModel);
  let found = { score: -Infinity, state: -1 };

  const classes = Uint8Array.from(strength, (each) => Math.min(STRENGTHS - 1, Math.floor(each * STRENGTHS)));
  /** Where the strokes of a segment stand in the table. */
  const places = new Int32Array(events.length);

  /**
   * Likelihood of the strokes from a beat up to the next, however the beat is filled; `first` is the first stroke at
   * or after it.
   */
  function segment(model: BeatModel, begun: number, period: number, first: number): number {
    const { ways } = model;
    const end = begun + periods[period];
    const table = model.tables[period];
    const stride = model.columns[period] * STRENGTHS;
    let strokes = 0;
    for (let event = first; event < events.length && time[event] < end; event++)
      places[strokes++] = (((time[event] - begun) / COLUMN) | 0) * STRENGTHS + classes[event];
    let best = -Infinity;
    for (let way = 0; way < ways; way++) {
      let sum = model.perBeat[period * ways + way];
      const base = way * stride;
      for (let at = 0; at < strokes; at++) sum += table[base + places[at]];
      if (sum > best) best = sum;
    }
    for (let hint = firstAtOrAfter(hinted, begun + HINT_REACH); hint < hinted.length; hint++) {
      if (hinted[hint] >= end - HINT_REACH) break;
      best -= HINT_COST;
    }
    return best;
  }

  for (let frame = 0; frame < frames; frame++) {
    if (frame % 2000 === 0) progress(frame / frames);
    const row = frame * count;
    const moment = from + frame * FRAME;
    const before = firstAtOrAfter(time, moment, events.length);
    const isStart = begun === null ? moment <= time[0] + LATEST_START : frame === 0;
    const fresh = before * stray;
    let near = bestAt[frame];
    for (let other = Math.max(0, frame - 12); other < Math.min(frames, frame + 12); other++)
      near = Math.max(near, bestAt[other]);
    if (!isStart && bestAt[frame] === -Infinity) continue;
    // What has come to a beat here may go on with another period.
    for (let base = 0; base < count; base += perModel) {
      let living = 0;
      for (let period = 0; period < perModel; period++) {
        let own = value[row + base + period];
        let from = base + period;
        for (let other = period; other < count; other += perModel) {
          if (value[row + other] - TUNED.turn <= own) continue;
          own = value[row + other] - TUNED.turn;
          from = other;
        }
        if (own < near - PRUNED) continue;
        cameFrom[living] = row + from;
        cameWith[living] = own;
        alive[living++] = period;
      }
      for (let period = 0; period < perModel; period++) {
        let best = isStart ? fresh : -Infinity;
        let source = -1;
        for (let at = 0; at < living; at++) {
          const other = alive[at];
          const own = cameWith[at] - changes[other < period ? period - other : other - period];
          if (own > best) {
            best = own;
            source = cameFrom[at];
          }
        }
        begin[base + period] = best;
        beginBack[base + period] = source;
      }
    }
    for (let other = 0; other < count; other++) {
      const own = value[row + other];
      if (own === -Infinity || exact[row + other] < last - periods[other % perModel] - 0.04) continue;
      const left = events.length - firstAtOrAfter(time, exact[row + other] + 0.04, events.length);
      const score = own + left * stray;
      if (score > found.score) found = { score, state: row + other };
    }
    if (moment > last + 0.04) continue;
    for (let leaving = 0; leaving < count; leaving++) {
      if (begin[leaving] < near - PRUNED) continue;
      const period = leaving % perModel;
      const source = beginBack[leaving];
      const begun = source < 0 ? moment : exact[source];
      let first = before;
      while (first > 0 && time[first - 1] >= begun) first--;
      while (first < events.length && time[first] < begun) first++;
      const barred = hints.only && isBarred(begun) ? HINT_COST : 0;
      const score = begin[leaving] + segment(models[(leaving / perModel) | 0], begun, period, first) - barred;
      const arrived = begun + periods[period];
      const at = Math.round((arrived - from) / FRAME);
      if (at >= frames || at <= frame) continue;
      const state = at * count + leaving;
      if (score <= value[state]) continue;
      value[state] = score;
      exact[state] = arrived;
      // The start of a path is told by a number below -1: where it begins.
      back[state] = source < 0 ? -2 - frame : source;
      if (score > bestAt[at]) bestAt[at] = score;
    }
  }
  const beats: number[] = [];
  const divided: number[] = [];
  let state = found.state;
  while (state >= 0) {
    const model = ((state % count) / perModel) | 0;
    if (beats.length === 0) divided.push(model);
    beats.push(exact[state]);
    divided.push(model);
    const next = back[state];
    if (next <= -2) beats.push(from + (-2 - next) * FRAME);
    state = next;
  }
  return { beats: Float64Array.from(beats.reverse()), models: Uint8Array.from(divided.reverse()) };
}

function costOfChange(steps: number): number {
  const off = (steps * PERIOD_STEP) / CHANGE;
  return off <= 2 ? (off * off) / 2 : 2 + 2 * (off - 2);
}
