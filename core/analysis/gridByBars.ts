import {
  createGrid,
  createMusicalBars,
  nearestLines,
  quartersOf,
  ticksToSeconds,
  type Timeline,
} from '../time';
import { median } from './readings';

/** Grids that bars may change between, and what a change costs: music does not change them for nothing (nats). */
const CANDIDATES = ['1/8', '1/16', '1/8T', '1/16T'] as const;
const CHANGE = 4;
/** What one grid for all has to cost more than several do, for several to be believed; in nats. */
const CLEARLY = 8;
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
  const squares = (of: readonly number[], name: string) =>
    squaresOf(Float64Array.from(of), name, biasMs, timeline);
  const bars = [...byBar].map(([bar, own]) => ({
    bar,
    count: own.length,
    offs: CANDIDATES.map((name) => squares(own, name)),
    single: squares(own, grid),
  }));
  // The spread is that of the bars by whichever grid fits them, coarse ones first.
  const spread = Math.max(
    TIGHTEST_MS,
    median(bars.map(({ offs, count }) => Math.sqrt(Math.min(offs[0], offs[2], 1.5 * offs[1]) / count))),
  );
  const costOf = (square: number, count: number, name: string) =>
    square / (2 * spread * spread) + count * Math.log(1 / quartersOf(name));
  const one = bars.reduce((sum, { single, count }) => sum + costOf(single, count, grid), 0);
  let costs = CANDIDATES.map(() => 0);
  const from: number[][] = [];
  for (const { offs, count } of bars) {
    const best = costs.indexOf(Math.min(...costs));
    const own: number[] = [];
    costs = CANDIDATES.map((name, at) => {
      const changes = costs[best] + CHANGE < costs[at];
      own.push(changes ? best : at);
      return (changes ? costs[best] + CHANGE : costs[at]) + costOf(offs[at], count, name);
    });
    from.push(own);
  }
  const least = Math.min(...costs);
  if (one - least < CLEARLY) return [];
  let state = costs.indexOf(least);
  const states: number[] = [];
  for (const own of from.reverse()) {
    states.unshift(state);
    state = own[state];
  }
  const stretches: GridOfBars[] = [];
  bars.forEach(({ bar }, at) => {
    const name = CANDIDATES[states[at]];
    const last = stretches.at(-1);
    if (last?.grid === name) last.bars[1] = bar;
    else stretches.push({ grid: name, bars: [last ? last.bars[1] + 1 : 1, bar] });
  });
  return stretches.length > 1 ? stretches : [];
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
