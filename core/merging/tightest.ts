/** What one source (a take, a file) would cost in one bar; NaN where it cannot supply the bar. */
export type BarCosts = readonly number[];

export interface Choice {
  /** The source of each bar. */
  sources: number[];
  /** The sum of the costs of the bars and of the changes. */
  total: number;
  switches: number;
}

/** Sums that differ by less are equal. */
const EQUAL = 1e-9;

/**
 * The source of each bar for which the sum of all costs, plus `penalty` for each change of source, is least; of equal
 * sums the list whose first differing source is the earlier. A bar no source can supply costs nothing and stays with
 * the source before; leading ones go with the first that is chosen (the first source where none ever is). Costs are a
 * list a bar, an entry a source.
 */
export function cheapest(costs: readonly BarCosts[], penalty: number): Choice {
  const bars = costs.flatMap((row, bar) => (row.some((cost) => !Number.isNaN(cost)) ? [bar] : []));
  // From the last bar back: what the best way on from here costs, by the source chosen here.
  const ways = new Array<Float64Array>(bars.length);
  for (let at = bars.length - 1; at >= 0; at--) {
    const row = costs[bars[at]];
    const next = ways[at + 1] as Float64Array | undefined;
    const least = next ? Math.min(...next) : 0;
    ways[at] = Float64Array.from(row, (cost, source) => {
      if (Number.isNaN(cost)) return Infinity;
      return cost + (next ? Math.min(next[source], least + penalty) : 0);
    });
  }
  const chosen: number[] = [];
  let total = 0;
  bars.forEach((_, at) => {
    const before = chosen.at(-1);
    const sums = Array.from(
      ways[at],
      (way, source) => way + (before !== undefined && before !== source ? penalty : 0),
    );
    const best = Math.min(...sums);
    chosen.push(sums.findIndex((sum) => sum <= best + EQUAL));
    if (at === 0) total = best;
  });
  const sources: number[] = [];
  let last = chosen[0] ?? 0;
  let at = 0;
  for (let bar = 0; bar < costs.length; bar++) {
    if (bars[at] === bar) last = chosen[at++];
    sources.push(last);
  }
  const switches = chosen.filter((source, index) => index > 0 && source !== chosen[index - 1]).length;
  return { sources, total, switches };
}
