import { lanesIn } from '../curves';
import type { EventColumns } from '../midi';
import type { NoteTable } from '../model';
import { CHORD_SECONDS, barAt, ticksToSeconds, type Timeline } from '../time';
import { followsBars } from './suggestion';
import { likelyGrid } from './likelyGrid';
import { estimateKey, type KeyEstimate } from './key';
import { latenessOf, median } from './readings';

/** What can be read from the notes of a part before any setting is chosen. Times in ms, velocities 1-127. */
export interface PartFacts {
  notes: number;
  /** The grid the starts most likely mean, and its swing (50 straight). */
  grid: string;
  swing: number;
  /** Median lateness against that grid; early below 0. */
  biasMs: number;
  /** Share of the notes that start together with another, 0-1. */
  chordShare: number;
  /** Lowest and highest pitch; null without notes. */
  pitches: [number, number] | null;
  /** Every pitch that occurs, from the lowest: of a drum part its pieces. */
  used: number[];
  medianVelocity: number;
  shortestMs: number;
  key: KeyEstimate | null;
  /** Lanes that hold points, those with most first. */
  lanes: string[];
  /** Whether it keeps to the bars of the session: what does not is not to be quantized to them. */
  followsBars: boolean;
  /** The end of the last bar with anything in it, in quarters from the start. */
  endQuarters: number;
}

export function partFacts(
  notes: NoteTable,
  timeline: Timeline,
  events?: EventColumns,
  isDrums = false,
): PartFacts {
  const { grid, swing } = likelyGrid(notes, timeline);
  const second = (tick: number) => ticksToSeconds(timeline.tempo, tick);
  let [low, high, together, shortest] = [127, 0, 0, Infinity];
  for (let row = 0; row < notes.length; row++) {
    low = Math.min(low, notes.pitch[row]);
    high = Math.max(high, notes.pitch[row]);
    shortest = Math.min(shortest, (second(notes.end[row]) - second(notes.start[row])) * 1000);
    const near = (other: number) =>
      other >= 0 &&
      other < notes.length &&
      Math.abs(second(notes.start[other]) - second(notes.start[row])) <= CHORD_SECONDS;
    if (near(row - 1) || near(row + 1)) together++;
  }
  const last = notes.end.reduce((latest, end) => Math.max(latest, end), events?.tick.at(-1) ?? 0);
  return {
    notes: notes.length,
    grid,
    swing,
    biasMs: median(Array.from(latenessOf(notes, [grid], swing, timeline))),
    chordShare: notes.length === 0 ? 0 : together / notes.length,
    pitches: notes.length === 0 ? null : [low, high],
    used: [...new Set(notes.pitch)].sort((a, b) => a - b),
    medianVelocity: notes.length === 0 ? 80 : median(Array.from(notes.velocity)),
    shortestMs: notes.length === 0 ? 0 : shortest,
    key: estimateKey(notes),
    endQuarters: barAt(timeline.meter, last).end / timeline.ticksPerQuarter,
    followsBars: followsBars(notes, isDrums, timeline),
    lanes: events ? lanesIn(events).map(({ lane }) => lane) : [],
  };
}
