import { lastAtOrBefore } from '../time';
import type { OnsetEvents } from './onsetEvents';

/**
 * Deviations: of a beat from the stroke it explains and from the path (seconds), and of its second difference (a
 * share of the period).
 */
const [STROKE, PATH, BEND] = [0.015, 0.1, 0.035];
/** A stroke is a beat's where it is nearer than this, in seconds, and than this share of the period. */
const [REACH, REACH_SHARE] = [0.07, 0.14];

/**
 * Beats moved to where they explain the strokes beside them best and go on evenly, by least squares: three kinds of
 * terms with the deviations above, a system of five diagonals. `fixed` beats (times) stay. Rising, like the path.
 */
export function refinedBeats(
  path: Float64Array,
  { time, strength, length }: Pick<OnsetEvents, 'time' | 'strength' | 'length'>,
  fixed: readonly number[] = [],
): Float64Array {
  const count = path.length;
  if (count < 3) return path;
  const diagonal = new Float64Array(count);
  const first = new Float64Array(count);
  const second = new Float64Array(count);
  const right = new Float64Array(count);
  const pull = (beat: number, to: number, weight: number) => {
    diagonal[beat] += weight;
    right[beat] += weight * to;
  };
  for (let beat = 0; beat < count; beat++) {
    const period = beat + 1 < count ? path[beat + 1] - path[beat] : path[beat] - path[beat - 1];
    pull(beat, path[beat], 1 / PATH ** 2);
    const reach = Math.min(REACH, REACH_SHARE * period);
    for (let event = Math.max(0, lastAtOrBefore(time, path[beat] - reach)); event < length; event++) {
      const off = Math.abs(time[event] - path[beat]);
      if (time[event] > path[beat] + reach) break;
      // A stroke farther off is less surely meant for the beat, and so is a weak one.
      if (off <= reach)
        pull(beat, time[event], ((1 - (off / reach) ** 2) * (0.15 + strength[event])) / STROKE ** 2);
    }
    const stays = fixed.find((at) => Math.abs(at - path[beat]) < 0.03);
    if (stays !== undefined) pull(beat, stays, 1 / 1e-4 ** 2);
  }
  for (let beat = 1; beat + 1 < count; beat++) {
    const weight = 1 / (BEND * ((path[beat + 1] - path[beat - 1]) / 2)) ** 2;
    // (a - 2b + c)^2
    diagonal[beat - 1] += weight;
    diagonal[beat] += 4 * weight;
    diagonal[beat + 1] += weight;
    first[beat - 1] -= 2 * weight;
    first[beat] -= 2 * weight;
    second[beat - 1] += weight;
  }
  const moved = solved(diagonal, first, second, right);
  // Least squares may not turn beats round; where it would, the path holds.
  return moved.every((at, beat) => beat === 0 || at > moved[beat - 1]) ? moved : path;
}

/**
 * Solves a symmetric positive system of five diagonals (Cholesky, LDL'). `first[i]` stands beside i and i+1,
 * `second[i]` beside i and i+2.
 */
function solved(
  diagonal: Float64Array,
  first: Float64Array,
  second: Float64Array,
  right: Float64Array,
): Float64Array {
  const count = diagonal.length;
  const d = new Float64Array(count);
  const l1 = new Float64Array(count);
  const l2 = new Float64Array(count);
  const x = Float64Array.from(right);
  for (let i = 0; i < count; i++) {
    const below = i > 0 ? l1[i - 1] : 0;
    const far = i > 1 ? l2[i - 2] : 0;
    d[i] = diagonal[i] - (i > 0 ? below * below * d[i - 1] : 0) - (i > 1 ? far * far * d[i - 2] : 0);
    l1[i] = (first[i] - (i > 0 ? l2[i - 1] * d[i - 1] * below : 0)) / d[i];
    l2[i] = second[i] / d[i];
    x[i] -= (i > 0 ? below * x[i - 1] : 0) + (i > 1 ? far * x[i - 2] : 0);
  }
  for (let i = 0; i < count; i++) x[i] /= d[i];
  for (let i = count - 1; i >= 0; i--) {
    if (i + 1 < count) x[i] -= l1[i] * x[i + 1];
    if (i + 2 < count) x[i] -= l2[i] * x[i + 2];
  }
  return x;
}

/**
 * A straight line through the beats by least squares: seconds a beat, where beat 0 lies, and the largest error, in
 * seconds.
 */
export function steadyLine(beats: ArrayLike<number>): {
  period: number;
  start: number;
  largestError: number;
} {
  const count = beats.length;
  if (count < 2) return { period: 0.5, start: beats[0] ?? 0, largestError: 0 };
  const middle = (count - 1) / 2;
  let mean = 0;
  for (let beat = 0; beat < count; beat++) mean += beats[beat] / count;
  let [above, below] = [0, 0];
  for (let beat = 0; beat < count; beat++) {
    above += (beat - middle) * (beats[beat] - mean);
    below += (beat - middle) ** 2;
  }
  const period = above / below;
  const start = mean - middle * period;
  let largestError = 0;
  for (let beat = 0; beat < count; beat++)
    largestError = Math.max(largestError, Math.abs(beats[beat] - (start + beat * period)));
  return { period, start, largestError };
}
