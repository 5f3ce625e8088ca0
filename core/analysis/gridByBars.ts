import {
  createGrid,
  createMusicalBars,
  nearestLines,
  quartersOf,
  ticksToSeconds,
  type Timeline,
} from '../time';
import { median } from './readings';

/** Bars are straight or in triplets; one grid of each kind holds for all of that kind, the finer where some need it. */
const PAIRS = [
  ['1/8', '1/8T'],
  ['1/16', '1/8T'],
  ['1/8', '1/16T'],
  ['1/16', '1/16T'],
] as const;
/** What a change between them costs: music does not change them for nothing (nats). */
const CHANGE = 8;
/** More stretches than this are no stretches: then one grid holds for all. */
const MOST_STRETCHES = 12;
/** What one grid for all has to cost more than several do, for several to be believed; in nats. */
const CLEARLY = 16;
/** Nobody plays tighter than this, in ms. */
const TIGHTEST_MS = 6;

/** A stretch of bars and the grid it is played on. */
export interface GridOfBars {
  grid: string;
  /** From one bar to another, both in it. */
  bars: [from: number, to: number];
}

/**
 * Grids that change from bar to bar, where that describes the places clearly better than one grid for all (`grid`),
 * as where triplets come for a few bars; else none. Each place costs its squared distance in spreads and the logarithm
 * of the lines a quarter has; the likeliest run of grids is found by dynamic programming (Viterbi).
 */
export function gridsByBars(
  places: Float64Array,
  grid: string,
  biasMs: number,
  timeline: Timeline,
): GridOfBars[] {
  const barOf = createMusicalBars(timeline);
  const byBar = new Map<number, number[]>();
  for (const place of places) {
    const bar = barOf(place);
    const own = byBar.get(bar);
    if (own) own.push(place);
    else byBar.set(bar, [place]);
  }
  if (byBar.size < 4) return [];
  const bars = [...byBar].map(([bar, own]) => {
    const places = Float64Array.from(own);
    const known = new Map<string, number>();
    const square = (name: string): number => {
      const one = known.get(name) ?? squaresOf(places, name, biasMs, timeline);
      known.set(name, one);
      return one;
    };
    return { bar, count: own.length, square };
  });
  // The spread is that of the bars by whichever grid fits them, coarse ones first.
  const spread = Math.max(
    TIGHTEST_MS,
    median(
      bars.map(({ square, count }) =>
        Math.sqrt(Math.min(square('1/8'), square('1/8T'), 1.5 * square('1/16')) / count),
      ),
    ),
  );
  const costOf = ({ square, count }: (typeof bars)[number], name: string) =>
    square(name) / (2 * spread * spread) + count * Math.log(1 / quartersOf(name));
  const one = bars.reduce((sum, own) => sum + costOf(own, grid), 0);
  const paths = PAIRS.map((pair) => likeliestGrids(bars.map((own) => pair.map((name) => costOf(own, name)))));
  const least = paths.reduce((best, path, at) => (path.cost < paths[best].cost ? at : best), 0);
  if (one - paths[least].cost < CLEARLY) return [];
  const stretches: GridOfBars[] = [];
  bars.forEach(({ bar }, at) => {
    const name = PAIRS[least][paths[least].states[at]];
    const last = stretches.at(-1);
    if (last?.grid === name) last.bars[1] = bar;
    else stretches.push({ grid: name, bars: [last ? last.bars[1] + 1 : 1, bar] });
  });
  return stretches.length > 1 && stretches.length <= MOST_STRETCHES ? stretches : [];
}

/** The cheapest run of states by what each costs in each bar (Viterbi). */
function likeliestGrids(bars: readonly (readonly number[])[]): { cost: number; states: number[] } {
  let costs = bars[0].map(() => 0);
  const from: number[][] = [];
  for (const own of bars) {
    const best = costs.indexOf(Math.min(...costs));
    from.push(costs.map((cost, at) => (costs[best] + CHANGE < cost ? best : at)));
    costs = costs.map((cost, at) => Math.min(costs[best] + CHANGE, cost) + own[at]);
  }
  const cost = Math.min(...costs);
  let state = costs.indexOf(cost);
  const states: number[] = [];
  for (const row of from.reverse()) {
    states.unshift(state);
    state = row[state];
  }
  return { cost, states };
}

/** The sum of squared distances from the lines, in ms, a habit taken off. */
function squaresOf(places: Float64Array, grid: string, biasMs: number, { meter, tempo }: Timeline): number {
  const lines = new Float64Array(places.length);
  nearestLines(createGrid(meter, [grid]), places, lines);
  let sum = 0;
  for (let row = 0; row < places.length; row++) {
    const late = 1000 * (ticksToSeconds(tempo, places[row]) - ticksToSeconds(tempo, lines[row]));
    sum += (late - biasMs) ** 2;
  }
  return sum;
}
