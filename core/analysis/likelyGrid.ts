import { pickRows, type NoteTable } from '../model';
import { quartersOf, type Timeline } from '../time';
import { latenessOf, median } from './readings';

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
const LEAST_SWING = 54;
const MOST_SWING = 75;
/**
 * What naming the swing costs beside naming the grid: the logarithm of the values there are, over all notes, and a
 * little so that straight is believed first.
 */
const SWING_COST = 0.05;

/** No performance is tighter than this, so a finer grid gains nothing below it. */
const TIGHTEST_MS = 6;
/** Notes looked at; more tell no more. */
const MOST_NOTES = 4000;

/**
 * The grid under which the starts are described in the fewest words: each note costs the logarithm of the lines a
 * quarter has, to say which one is meant, and the logarithm of the spread around the lines (minimum description
 * length with a normal spread). A finer grid must so tighten the spread by more than it adds lines. Sixteenths where
 * there is nothing to go by.
 */
export function likelyGrid(notes: NoteTable, timeline: Timeline): LikelyGrid {
  if (notes.length < 2) return { grid: '1/16', swing: 50 };
  const some = someOf(notes);
  let best: LikelyGrid = { grid: '1/16', swing: 50 };
  let [least, tightest] = [Infinity, Infinity];
  const tryGrid = (grid: string, swing: number) => {
    const lateness = latenessOf(some, [grid], swing, timeline);
    // What is the same for all notes is a habit of the player, not a misfit of the grid.
    const bias = median(Array.from(lateness));
    let square = 0;
    for (const late of lateness) square += (late - bias) ** 2;
    const spread = Math.sqrt(square / lateness.length);
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
  return best;
}

/** Evenly chosen notes of a part that has very many. */
function someOf(notes: NoteTable): NoteTable {
  if (notes.length <= MOST_NOTES) return notes;
  const every = notes.length / MOST_NOTES;
  return pickRows(
    notes,
    Array.from({ length: MOST_NOTES }, (_, index) => Math.floor(index * every)),
  );
}
