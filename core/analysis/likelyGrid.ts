import type { NoteTable } from '../model';
import { barAt, createGrid, nearestLines, quartersOf, ticksToSeconds, type Timeline } from '../time';
import { middleOf } from './readings';

/** A grid and how its second lines swing: 50 straight, 66.67 triplets. */
export interface LikelyGrid {
  grid: string;
  swing: number;
}

/** Grids a part is likely played on, coarse to fine. */
const CANDIDATES = ['1/4', '1/8', '1/8T', '1/16', '1/16T', '1/32'];
/** Those that are swung. */
const SWUNG = ['1/8', '1/16'];
/** Less is a habit of the player, not a swing. */
const LEAST_SWING = 55;
const MOST_SWING = 75;
/**
 * What naming the swing costs beside naming the grid: the logarithm of the values there are, over all notes, and a
 * little so that straight is believed first.
 */
const SWING_COST = 0.05;

/** No performance is tighter than this, so a finer grid gains nothing below it. */
const TIGHTEST_MS = 6;
/** Notes looked at; more tell no more. */
const MOST_NOTES = 1500;

/**
 * The grid under which the starts are described in the fewest words: each note costs the logarithm of the lines a
 * quarter has, to say which one is meant, and the logarithm of the spread around the lines (minimum description
 * length with a normal spread). A finer grid must so tighten the spread by more than it adds lines. Of grids that
 * explain all to the tick the coarsest. Sixteenths where there is nothing to go by.
 */
export const likelyGrid = (notes: NoteTable, timeline: Timeline): LikelyGrid =>
  likelyGridOf(notes.start, timeline);

/** The same of any places, in ticks and in order. */
export function likelyGridOf(starts: Float64Array, timeline: Timeline): LikelyGrid {
  const found = known.get(starts);
  if (found?.timeline === timeline) return found.likely;
  const likely = likeliest(starts, timeline);
  known.set(starts, { timeline, likely });
  return likely;
}

/** Columns never change, and several figures of a part ask for its grid. */
const known = new WeakMap<Float64Array, { timeline: Timeline; likely: LikelyGrid }>();

function likeliest(starts: Float64Array, timeline: Timeline): LikelyGrid {
  if (starts.length < 2) return { grid: '1/16', swing: 50 };
  const some = someOf(starts);
  let best: LikelyGrid = { grid: '1/16', swing: 50 };
  let [least, tightest] = [Infinity, Infinity];
  const tryGrid = (grid: string, swing: number) => {
    const spread = spreadAbout(some, grid, swing, timeline);
    const cost = swing === 50 ? 0 : SWING_COST + Math.log(MOST_SWING - LEAST_SWING) / some.length;
    const words = Math.log(1 / quartersOf(grid)) + Math.log(Math.max(spread, TIGHTEST_MS)) + cost;
    // Of swings that all fit as tightly as anybody plays, the one that fits best.
    const isBetter = words < least - 1e-9 || (words < least + 1e-9 && swing !== 50 && spread < tightest);
    if (!isBetter) return;
    [least, tightest] = [words, spread];
    best = { grid, swing };
  };
  for (const grid of CANDIDATES) tryGrid(grid, 50);
  for (const grid of SWUNG) for (let swing = LEAST_SWING; swing <= MOST_SWING; swing++) tryGrid(grid, swing);
  if (best.swing === 50) return best;
  const swing = exactSwing(some, best.grid, timeline) ?? best.swing;
  return { ...best, swing: swing < LEAST_SWING ? 50 : Math.min(MOST_SWING, swing) };
}

/**
 * The swing that is played, to half a percent: how far the later lines of each pair are from the earlier ones, on the
 * mean. Null without either.
 */
function exactSwing(starts: Float64Array, grid: string, { meter, ticksPerQuarter }: Timeline): number | null {
  const pair = 2 * quartersOf(grid) * ticksPerQuarter;
  const sums = { on: 0, off: 0 };
  const counts = { on: 0, off: 0 };
  for (const start of starts) {
    const bar = barAt(meter, Math.max(0, start));
    const share = ((start - bar.start) / pair) % 1;
    const which = share > 0.36 && share < 0.86 ? 'off' : 'on';
    sums[which] += which === 'on' && share > 0.5 ? share - 1 : share;
    counts[which]++;
  }
  if (counts.on === 0 || counts.off === 0) return null;
  const swing = 100 * (sums.off / counts.off - sums.on / counts.on);
  return Math.round(2 * swing) / 2;
}

/**
 * How far places are about the lines of a grid, in ms: what is the same for all is a habit of the player, no misfit.
 */
export function spreadAbout(
  starts: Float64Array,
  grid: string,
  swing: number,
  { meter, tempo }: Timeline,
): number {
  if (starts.length === 0) return 0;
  const lines = new Float64Array(starts.length);
  nearestLines(createGrid(meter, [grid], swing), starts, lines);
  const late = starts.map(
    (tick, row) => 1000 * (ticksToSeconds(tempo, tick) - ticksToSeconds(tempo, lines[row])),
  );
  const bias = middleOf(late.slice().sort());
  return Math.sqrt(late.reduce((sum, each) => sum + (each - bias) ** 2, 0) / late.length);
}

/** Evenly chosen places of a part that has very many. */
function someOf(starts: Float64Array): Float64Array {
  if (starts.length <= MOST_NOTES) return starts;
  const every = starts.length / MOST_NOTES;
  return Float64Array.from({ length: MOST_NOTES }, (_, index) => starts[Math.floor(index * every)]);
}
