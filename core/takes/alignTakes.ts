import { ticksToSeconds, type Timeline } from '../time';
import type { TakeNotes } from './compareTakes';

/** How far a take may be off, in seconds, and how near two strokes must then lie to agree. */
const REACH_SECONDS = 8;
const BIN_SECONDS = 0.01;
/** Strokes that agree within this decide where exactly the best match is. */
const NEAR_SECONDS = 0.03;

export interface Match {
  /** By how many seconds the take is to be slid later (above 0) or earlier. */
  seconds: number;
  /** Which share of its notes then meet one of the other's, 0 to 1. */
  share: number;
}

/**
 * The offset at which a take matches another best: the highest place of the cross-correlation of their strokes, pitch
 * by pitch, counted in steps of 10 ms and smoothed over three of them, then the mean of what agrees there within 30
 * ms. Of equal places the one nearest to where the take is. Null where no stroke of one pitch comes within 8 seconds.
 */
export function bestMatch(take: TakeNotes, other: TakeNotes, { tempo }: Timeline): Match | null {
  const byPitch = (notes: TakeNotes) => {
    const moments = new Map<number, Moments>();
    notes.start.forEach((tick, row) => {
      const second = ticksToSeconds(tempo, tick);
      const known = moments.get(notes.pitch[row]);
      if (!known) return void moments.set(notes.pitch[row], { at: [second], times: [1] });
      const { at, times } = known;
      if (at[at.length - 1] === second) times[times.length - 1]++;
      else {
        at.push(second);
        times.push(1);
      }
    });
    return moments;
  };
  const [own, theirs] = [byPitch(take), byPitch(other)];
  const half = Math.round(REACH_SECONDS / BIN_SECONDS);
  const bins = new Float64Array(2 * half + 1);
  forEachPair(own, theirs, REACH_SECONDS, (difference, times) => {
    bins[Math.min(2 * half, Math.max(0, Math.round(difference / BIN_SECONDS) + half))] += times;
  });
  let [best, height] = [-1, 0];
  for (let bin = 0; bin < bins.length; bin++) {
    const smooth = (bins[bin - 1] ?? 0) + 2 * bins[bin] + (bins[bin + 1] ?? 0);
    const isNearer = Math.abs(bin - half) < Math.abs(best - half);
    if (smooth > height || (smooth === height && smooth > 0 && isNearer)) [best, height] = [bin, smooth];
  }
  if (best < 0) return null;
  const about = (best - half) * BIN_SECONDS;
  let [sum, count] = [0, 0];
  forEachPair(own, theirs, REACH_SECONDS + NEAR_SECONDS, (difference, times) => {
    if (Math.abs(difference - about) > NEAR_SECONDS) return;
    sum += difference * times;
    count += times;
  });
  return { seconds: count === 0 ? about : sum / count, share: Math.min(1, count / take.start.length) };
}

/** Moments, in seconds and in order, and how many strokes of one pitch there are at each. */
interface Moments {
  at: number[];
  times: number[];
}

/**
 * Calls back for every two moments with strokes of one pitch, with how much later the other's is and how many pairs
 * there are, within a reach.
 */
function forEachPair(
  own: ReadonlyMap<number, Moments>,
  theirs: ReadonlyMap<number, Moments>,
  reach: number,
  each: (difference: number, times: number) => void,
) {
  for (const [pitch, moments] of own) {
    const others = theirs.get(pitch);
    if (!others) continue;
    let first = 0;
    const { at: later, times } = others;
    for (let row = 0; row < moments.at.length; row++) {
      const at = moments.at[row];
      const strokes = moments.times[row];
      while (first < later.length && later[first] < at - reach) first++;
      for (let other = first; other < later.length && later[other] <= at + reach; other++)
        each(later[other] - at, strokes * times[other]);
    }
  }
}
