/** How late taps are against the clicks they answer, in ms. */
export interface MeasuredLatency {
  /** The median deviation: what is offered as the setting. */
  median: number;
  /** Standard deviation about the mean of the taps that count. */
  spread: number;
  /** Taps that count: each nearest to a click of its own. */
  taps: number;
}

/** Taps needed for an answer. */
const FEWEST = 8;

/**
 * How late somebody taps along to clicks (both in ms on one clock): the deviation of each tap from the click nearest
 * to it, of several to one click the closest. Null with fewer than eight.
 */
export function measureLatency(clicks: readonly number[], taps: readonly number[]): MeasuredLatency | null {
  const nearest = new Map<number, number>();
  for (const tap of taps) {
    const click = clicks.reduce(
      (best, each) => (Math.abs(each - tap) < Math.abs(best - tap) ? each : best),
      Infinity,
    );
    const off = tap - click;
    const known = nearest.get(click);
    if (known === undefined || Math.abs(off) < Math.abs(known)) nearest.set(click, off);
  }
  const offs = [...nearest.values()].sort((a, b) => a - b);
  if (offs.length < FEWEST) return null;
  const middle = offs.length >> 1;
  const median = offs.length % 2 === 1 ? offs[middle] : (offs[middle - 1] + offs[middle]) / 2;
  const mean = offs.reduce((sum, off) => sum + off, 0) / offs.length;
  const spread = Math.sqrt(offs.reduce((sum, off) => sum + (off - mean) ** 2, 0) / offs.length);
  return { median, spread, taps: offs.length };
}
