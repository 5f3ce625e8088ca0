import { lanesIn } from '../curves';
import type { EventColumns } from '../midi';
import type { NoteTable } from '../model';
import { barAt, quartersOf, ticksToSeconds, type Timeline } from '../time';
import { estimateKey, type KeyEstimate } from './key';
import { latenessOf, median } from './readings';

/** What can be read from the notes of a part before any setting is chosen. Times in ms, velocities 1-127. */
export interface PartFacts {
  notes: number;
  /** The grid the starts most likely mean. */
  grid: string;
  /** Median lateness against that grid; early below 0. */
  biasMs: number;
  /** Share of the notes that start together with another, 0-1. */
  chordShare: number;
  /** Lowest and highest pitch; null without notes. */
  pitches: [number, number] | null;
  medianVelocity: number;
  shortestMs: number;
  key: KeyEstimate | null;
  /** Lanes that hold points, those with most first. */
  lanes: string[];
  /** The end of the last bar with anything in it, in quarters from the start. */
  endQuarters: number;
}

/** Starts within this of one another are one chord. */
const CHORD_MS = 30;

/** Grids a part is likely played on, coarse to fine. */
const CANDIDATES = ['1/4', '1/8', '1/8T', '1/16', '1/16T', '1/32'];

/** No performance is tighter than this, so a finer grid gains nothing below it. */
const TIGHTEST_MS = 6;

export function partFacts(notes: NoteTable, timeline: Timeline, events?: EventColumns): PartFacts {
  const grid = likelyGrid(notes, timeline);
  const second = (tick: number) => ticksToSeconds(timeline.tempo, tick);
  let [low, high, together, shortest] = [127, 0, 0, Infinity];
  for (let row = 0; row < notes.length; row++) {
    low = Math.min(low, notes.pitch[row]);
    high = Math.max(high, notes.pitch[row]);
    shortest = Math.min(shortest, (second(notes.end[row]) - second(notes.start[row])) * 1000);
    const near = (other: number) =>
      other >= 0 &&
      other < notes.length &&
      Math.abs(second(notes.start[other]) - second(notes.start[row])) * 1000 <= CHORD_MS;
    if (near(row - 1) || near(row + 1)) together++;
  }
  const last = notes.end.reduce((latest, end) => Math.max(latest, end), events?.tick.at(-1) ?? 0);
  return {
    notes: notes.length,
    grid,
    biasMs: median(Array.from(latenessOf(notes, [grid], 50, timeline))),
    chordShare: notes.length === 0 ? 0 : together / notes.length,
    pitches: notes.length === 0 ? null : [low, high],
    medianVelocity: notes.length === 0 ? 80 : median(Array.from(notes.velocity)),
    shortestMs: notes.length === 0 ? 0 : shortest,
    key: estimateKey(notes),
    endQuarters: barAt(timeline.meter, last).end / timeline.ticksPerQuarter,
    lanes: events ? lanesIn(events).map(({ lane }) => lane) : [],
  };
}

/**
 * The grid under which the starts are described in the fewest words: each note costs the logarithm of the lines a quarter
 * has, to say which one is meant, and the logarithm of the spread around the lines (minimum description length with a normal
 * spread). A finer grid must so tighten the spread by more than it adds lines. Sixteenths where there is nothing to go by.
 */
export function likelyGrid(notes: NoteTable, timeline: Timeline): string {
  if (notes.length < 2) return '1/16';
  let best = '1/16';
  let least = Infinity;
  for (const grid of CANDIDATES) {
    const lateness = latenessOf(notes, [grid], 50, timeline);
    // What is the same for all notes is a habit of the player, not a misfit of the grid.
    const bias = median(Array.from(lateness));
    let square = 0;
    for (const late of lateness) square += (late - bias) ** 2;
    const spread = Math.sqrt(square / lateness.length);
    const words = Math.log(1 / quartersOf(grid)) + Math.log(Math.max(spread, TIGHTEST_MS));
    if (words < least - 1e-9) {
      least = words;
      best = grid;
    }
  }
  return best;
}
