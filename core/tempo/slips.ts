import { median } from '../analysis';
import { firstAtOrAfter } from '../time';

/** A pulse goes on where beats are as long as others to this share; it is judged by so many on either side. */
const [UNEVEN, AROUND] = [0.1, 4];
/** A stretch has so many gaps at least. */
const LEAST = 2;
/** Beats over which a pulse that was found may jump by half of one, and over which it may slide so far. */
const MOST_JUMPED = 4;
const [LEAST_SLID, MOST_SLID, LOOKED_ON] = [4, 8, 3];
/** The share of the half beats of a slide that are struck, at least; where fewer are the tempo may as well change. */
const LEAST_STRUCK = 0.7;
/** A pulse slid where strokes are nearer than this share to half beats that did not slide, by mean distances. */
const NEARER = 0.4;

/** Beats from `first` up to `end` in which a pulse goes on. */
export interface Stretch {
  first: number;
  end: number;
  /** The strokes before it say that the pulse slid by half a beat, rather than that the tempo changed. */
  slidInto: boolean;
}

/** The beats between jumps of half a beat. `strokes` are their times, in seconds, rising. */
export function stretchesOf(beats: Float64Array, strokes: Float64Array): Stretch[] {
  const gaps = Array.from(beats.subarray(1), (at, beat) => at - beats[beat]);
  const stretches: Stretch[] = [];
  let [first, slidInto] = [0, false];
  for (let gap = LEAST; gap + AROUND < gaps.length; gap++) {
    if (gap - first < LEAST) continue;
    const slide = slideFrom(beats, gaps, gap, strokes);
    const length = slide ? slide.length : gap < AROUND ? 0 : jumpAt(gaps, gap);
    if (length === 0) continue;
    const begins = slide?.gap ?? gap;
    stretches.push({ first, end: begins + 1, slidInto });
    first = begins + length;
    slidInto = slide !== null;
    gap = first + LEAST - 1;
  }
  stretches.push({ first, end: beats.length, slidInto });
  return stretches;
}

/** Over how many gaps the pulse jumps by half a beat, where it goes on as before behind them; 0 where it does not. */
function jumpAt(gaps: readonly number[], gap: number): number {
  for (let length = 1; length <= MOST_JUMPED && gap + length + AROUND <= gaps.length; length++) {
    const around = [...gaps.slice(gap - AROUND, gap), ...gaps.slice(gap + length, gap + length + AROUND)];
    const usual = median(around);
    if (around.some((each) => Math.abs(each / usual - 1) > UNEVEN)) continue;
    const over = gaps.slice(gap, gap + length).reduce((sum, each) => sum + each / usual, 0);
    if (Math.abs(over - Math.floor(over) - 0.5) < 0.15) return length;
  }
  return 0;
}

/**
 * Where from a gap on, or shortly after it, the pulse slid by half a beat: over which gaps the strokes speak for that
 * most clearly. Null where they do not.
 */
function slideFrom(
  beats: Float64Array,
  gaps: readonly number[],
  from: number,
  strokes: Float64Array,
): { gap: number; length: number } | null {
  let best: { gap: number; length: number } | null = null;
  let least = NEARER;
  // Only once a window shows it at all are those shortly after it looked at.
  for (let gap = from; gap <= from + (best === null ? 0 : LOOKED_ON); gap++)
    for (let length = LEAST_SLID; length <= MOST_SLID && gap + length + LEAST <= gaps.length; length++) {
      const share = shareOfDistance(beats.subarray(gap, gap + length + 1), strokes);
      if (share >= least) continue;
      least = share;
      best = { gap, length };
    }
  return best;
}

/**
 * How far strokes lie from half beats evenly spread over the time of some beats, half a beat more or fewer of them, as
 * a share of how far from the half beats themselves. Infinite for few strokes.
 */
function shareOfDistance(beats: Float64Array, strokes: Float64Array): number {
  const [from, to] = [beats[0], beats[beats.length - 1]];
  const [first, end] = [firstAtOrAfter(strokes, from), firstAtOrAfter(strokes, to)];
  const count = 2 * (beats.length - 1);
  if (end - first < LEAST_STRUCK * count) return Infinity;
  const own = Float64Array.from(
    [...beats].flatMap((at, beat) => (beat === 0 ? [at] : [(at + beats[beat - 1]) / 2, at])),
  );
  const even = (halves: number) =>
    Float64Array.from({ length: halves + 1 }, (_, at) => from + ((to - from) * at) / halves);
  const off = (lines: Float64Array) => {
    let sum = 0;
    for (let stroke = first; stroke < end; stroke++) {
      const next = firstAtOrAfter(lines, strokes[stroke]);
      const ahead = (lines[next] ?? Infinity) - strokes[stroke];
      sum += Math.min(ahead, strokes[stroke] - (lines[next - 1] ?? -Infinity));
    }
    return sum;
  };
  return Math.min(off(even(count - 1)), off(even(count + 1))) / Math.max(1e-9, off(own));
}
