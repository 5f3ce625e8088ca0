import { rampAt, RAMP_SHAPES, type RampShape } from '../curves';
import { OrdleError } from '../errors';
import { bpmOf, effectiveTempos, microsecondsOf, type TempoChange } from '../time';
import { roundedTempos } from './mapEdits';

/**
 * The tempo goes from one to another between two ticks, evenly along the beats or by another shape; after them it
 * stays the second.
 */
export interface TempoRamp {
  from: number;
  to: number;
  fromBpm: number;
  toBpm: number;
  shape: RampShape;
}

/** Steps of a ramp at most; a longer one takes wider steps. */
const MOST_STEPS = 4000;
/** A few steps could be any tempos: from so many on they are told as a ramp. */
const LEAST_STEPS = 4;

const microseconds = (bpm: number) => Math.min(0xffffff, Math.max(1, microsecondsOf(bpm)));

/**
 * Seconds a quarter of a stretch of a ramp, from share `low` to share `high` of it: the mean of 60/bpm over it. Evenly
 * between a and b bpm it is 60 ln(b/a) / (b - a), the integral over a straight line; else by Simpson's rule.
 */
function secondsAQuarter(
  { fromBpm, toBpm, shape }: Omit<TempoRamp, 'from' | 'to'>,
  low: number,
  high: number,
): number {
  const bpmAt = (share: number) => fromBpm + (toBpm - fromBpm) * rampAt(shape, share);
  const [a, b] = [bpmAt(low), bpmAt(high)];
  if (shape === 'line') return Math.abs(b - a) < 1e-9 ? 60 / a : (60 * Math.log(b / a)) / (b - a);
  const PANELS = 8;
  let sum = 60 / a + 60 / b;
  for (let panel = 1; panel < PANELS; panel++)
    sum += ((panel % 2 === 1 ? 4 : 2) * 60) / bpmAt(low + ((high - low) * panel) / PANELS);
  return sum / (3 * PANELS);
}

/** The tempos a ramp is written as in so many steps, each lasting as long as the ramp itself does there. */
function stepsOf(ramp: TempoRamp, count: number): TempoChange[] {
  return Array.from({ length: count }, (_, step): TempoChange => ({
    tick: Math.round(ramp.from + ((ramp.to - ramp.from) * step) / count),
    microsecondsPerQuarter: microseconds(60 / secondsAQuarter(ramp, step / count, (step + 1) / count)),
  }));
}

/**
 * Tempos with a ramp in place of what is there. Files know jumps only, so it becomes a change every `every` ticks. With
 * `isFollowed` the change at its end is left to be what it is. Throws `empty-ramp` where it does not end after it
 * begins.
 */
export function withRamp(
  tempos: readonly TempoChange[],
  {
    every,
    isFollowed = false,
    ...ramp
  }: Omit<TempoRamp, 'shape'> & { shape?: RampShape; every: number; isFollowed?: boolean },
): TempoChange[] {
  const whole: TempoRamp = { shape: 'line', ...ramp, from: Math.round(ramp.from), to: Math.round(ramp.to) };
  if (!(whole.to > whole.from)) throw new OrdleError('empty-ramp', 'A ramp must end after it begins.');
  const length = whole.to - whole.from;
  const count = Math.min(MOST_STEPS, length, Math.max(LEAST_STEPS, Math.round(length / every)));
  const all = effectiveTempos(tempos);
  const isKept = isFollowed && all.some(({ tick }) => tick === whole.to);
  const beside = all.filter(
    ({ tick }) => tick < whole.from || tick > whole.to || (isKept && tick === whole.to),
  );
  const end = { tick: whole.to, microsecondsPerQuarter: microseconds(whole.toBpm) };
  return [...beside, ...stepsOf(whole, count), ...(isKept ? [] : [end])].sort(
    (one, other) => one.tick - other.tick,
  );
}

/**
 * Tempos without a ramp: the tempo before it goes on, up to what follows it; at the start that it begins with.
 */
export function withoutRamp(
  tempos: readonly TempoChange[],
  { from, to, fromBpm, isFollowed }: FoundRamp,
): TempoChange[] {
  const all = effectiveTempos(tempos);
  const kept = all.filter(({ tick }) => tick < from || tick > to || (isFollowed && tick === to));
  const isBegun = kept.length > 0 && kept[0].tick === 0;
  return isBegun ? kept : [{ tick: 0, microsecondsPerQuarter: microseconds(fromBpm) }, ...kept];
}

/** Tempos in which a ramp goes elsewhere, or otherwise; it keeps the width of its steps. */
export function changedRamp(
  tempos: readonly TempoChange[],
  ramp: FoundRamp,
  change: Partial<TempoRamp>,
): TempoChange[] {
  const { from, to, fromBpm, toBpm, shape, isFollowed } = { ...ramp, ...change };
  const every = (ramp.to - ramp.from) / ramp.steps;
  return withRamp(withoutRamp(tempos, ramp), { from, to, fromBpm, toBpm, shape, isFollowed, every });
}

/** One entry of a tempo map: a tempo from a place on, or a ramp. */
export type TempoEntry =
  { ramp: null; tick: number; bpm: number } | { ramp: FoundRamp; tick: number; bpm: number };

/** A tempo map as its entries, in order: what a ramp is written as is one of them. */
export function tempoEntries(tempos: readonly TempoChange[], ticksPerQuarter: number): TempoEntry[] {
  const all = effectiveTempos(tempos);
  const entries: TempoEntry[] = [];
  let row = 0;
  for (const ramp of [...rampsIn(all, ticksPerQuarter), null]) {
    for (; row < (ramp?.first ?? all.length); row++) {
      const { tick, microsecondsPerQuarter } = all[row];
      entries.push({ ramp: null, tick, bpm: bpmOf(microsecondsPerQuarter) });
    }
    if (!ramp) continue;
    entries.push({ ramp, tick: ramp.from, bpm: ramp.fromBpm });
    row = ramp.first + ramp.steps + (ramp.isFollowed ? 0 : 1);
  }
  return entries;
}

/** A ramp as it stands in a map. */
export interface FoundRamp extends TempoRamp {
  /** The place of its first change among all, and how many there are up to, not including, the one at its end. */
  first: number;
  steps: number;
  /** Whether another tempo than the one it comes to begins at its end. */
  isFollowed: boolean;
}

/**
 * The ramps among some tempos, in order: runs of steps of one width that are, to the microsecond or two, what such a
 * ramp is written as. So a ramp is known again in a file, and after anything that leaves it one.
 */
export function rampsIn(tempos: readonly TempoChange[], ticksPerQuarter: number): FoundRamp[] {
  const all = effectiveTempos(tempos);
  const found: FoundRamp[] = [];
  for (let first = 0; first + LEAST_STEPS < all.length;) {
    const last = endOfRun(all, first);
    const width = all[first + 1].tick - all[first].tick;
    // Tempos a beat apart are mostly those of a performance; a ramp so coarse is a long one.
    const isFine = width <= 0.75 * ticksPerQuarter || last - first >= 64;
    const ramps = isFine ? rampsWithin(all, first, last, MOST_SPLITS) : [];
    found.push(...ramps);
    const ramp = ramps.at(-1);
    first = Math.max(last, ramp ? ramp.first + ramp.steps : 0);
  }
  return found;
}

/** How often a run of changes is divided where it bends, to find several ramps in it. */
const MOST_SPLITS = 4;

/** The last of the changes from one on that are as far from each other and go in one direction; the next at least. */
function endOfRun(all: readonly TempoChange[], first: number): number {
  const width = all[first + 1].tick - all[first].tick;
  let direction = 0;
  let last = first;
  while (last + 1 < all.length && Math.abs(all[last + 1].tick - all[last].tick - width) <= 1) {
    const way = Math.sign(all[last + 1].microsecondsPerQuarter - all[last].microsecondsPerQuarter);
    if (way !== 0 && direction !== 0 && way !== direction) break;
    direction ||= way;
    last++;
  }
  return Math.max(last, first + 1);
}

function rampsWithin(all: readonly TempoChange[], first: number, last: number, splits: number): FoundRamp[] {
  const steps = last - first;
  if (steps < LEAST_STEPS || all[first].microsecondsPerQuarter === all[last].microsecondsPerQuarter)
    return [];
  // Where the next ramp goes the other way its first step may be the end of this one, or the one after it.
  const ends = [
    { end: last, isFollowed: false },
    { end: last + 1, isFollowed: true },
    { end: last, isFollowed: true },
  ].filter(({ end }) => end < all.length);
  for (const { end, isFollowed } of ends)
    for (const shape of RAMP_SHAPES) {
      const ramp = fitted(all.slice(first, end + 1), shape, isFollowed);
      if (ramp) return [{ ...ramp, first, steps: end - first, isFollowed }];
    }
  if (splits === 0) return [];
  const bend = sharpestBend(all, first, last);
  return [...rampsWithin(all, first, bend, splits - 1), ...rampsWithin(all, bend, last, splits - 1)];
}

/** Where the tempo changes its pace most, between two changes. */
function sharpestBend(all: readonly TempoChange[], first: number, last: number): number {
  const bpm = (row: number) => bpmOf(all[row].microsecondsPerQuarter);
  let [bend, most] = [first + 1, -1];
  for (let row = first + 1; row < last; row++) {
    const by = Math.abs(bpm(row + 1) - 2 * bpm(row) + bpm(row - 1));
    if (by > most) [bend, most] = [row, by];
  }
  return bend;
}

/**
 * The ramp of one shape that some changes are written for, null where they are for none. The last is the tempo it
 * comes to, or, where something else follows, only where it ends.
 */
function fitted(changes: readonly TempoChange[], shape: RampShape, isFollowed: boolean): TempoRamp | null {
  const count = changes.length - 1;
  const [start, end] = [changes[0], changes[count]];
  const wanted = (step: number) => changes[step].microsecondsPerQuarter / 1e6;
  let toBpm = bpmOf((isFollowed ? changes[count - 1] : end).microsecondsPerQuarter);
  let fromBpm = bpmOf(start.microsecondsPerQuarter);
  // What it begins with makes its first step as long as it is, and what it comes to the last, where that is not there:
  // each found by halving, in turns, since the one hardly sways the other.
  for (let turn = 0; turn < (isFollowed ? 12 : 1); turn++) {
    fromBpm = halved((bpm) => secondsAQuarter({ fromBpm: bpm, toBpm, shape }, 0, 1 / count), wanted(0));
    if (isFollowed)
      toBpm = halved(
        (bpm) => secondsAQuarter({ fromBpm, toBpm: bpm, shape }, 1 - 1 / count, 1),
        wanted(count - 1),
      );
  }
  const ramp: TempoRamp = {
    from: start.tick,
    to: end.tick,
    fromBpm: tidy(fromBpm),
    toBpm: tidy(toBpm),
    shape,
  };
  const isIt = stepsOf(ramp, count).every(
    ({ tick, microsecondsPerQuarter }, step) =>
      Math.abs(tick - changes[step].tick) <= 1 &&
      Math.abs(microsecondsPerQuarter - changes[step].microsecondsPerQuarter) <= most(ramp),
  );
  return isIt ? ramp : null;
}

/** What rounding a tempo to hundredths and to whole microseconds may come to, in microseconds a quarter. */
const most = ({ fromBpm, toBpm }: TempoRamp): number => 2 + (0.006 * 60e6) / Math.min(fromBpm, toBpm) ** 2;

/** The tempo at which something that falls as it rises is as wanted. */
function halved(seconds: (bpm: number) => number, wanted: number): number {
  let [low, high] = [1, 5000];
  for (let halving = 0; halving < 50; halving++) {
    const middle = (low + high) / 2;
    if (seconds(middle) > wanted) low = middle;
    else high = middle;
  }
  return (low + high) / 2;
}

/** A tempo to what whole microseconds can tell of it. */
const tidy = (bpm: number): number => Number(bpm.toFixed(2));

/** Tempos to a whole number or so many decimals of bpm; of a ramp its ends are, so that it stays one. */
export function roundedMap(
  tempos: readonly TempoChange[],
  decimals: number,
  ticksPerQuarter: number,
): TempoChange[] {
  const scale = 10 ** decimals;
  const near = (bpm: number) => Math.max(1 / scale, Math.round(bpm * scale) / scale);
  const ramps = rampsIn(tempos, ticksPerQuarter);
  const plain = ramps.reduce<readonly TempoChange[]>((left, ramp) => withoutRamp(left, ramp), tempos);
  return ramps.reduce(
    (made, ramp) => {
      const { from, to, shape, isFollowed, steps } = ramp;
      const [fromBpm, toBpm] = [near(ramp.fromBpm), near(ramp.toBpm)];
      return withRamp(made, { from, to, fromBpm, toBpm, shape, isFollowed, every: (to - from) / steps });
    },
    roundedTempos(
      plain,
      decimals,
      ramps.map(({ to }) => to),
    ),
  );
}
