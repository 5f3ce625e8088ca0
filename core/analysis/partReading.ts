import { DRUM_CHANNEL } from '../midi';
import { createHeap, type Heap, type NoteTable } from '../model';
import {
  barAt,
  createGrid,
  nearestLines,
  quartersOf,
  ticksToSeconds,
  type NoteValue,
  type Timeline,
} from '../time';
import { estimateKey } from './key';
import { deviationsMs, momentsOf } from './deviations';
import { gridReadingsOf, type GridReading } from './gridReadings';
import { middleOf } from './readings';

/** What can be measured of a part. Milliseconds; null where there is nothing to measure. */
export interface PartReading {
  notes: number;
  /**
   * Mean of the deviations of the starts from the nearest lines, late above 0; their standard deviation; their root
   * mean square.
   */
  biasMs: number | null;
  spreadMs: number | null;
  offMs: number | null;
  /** Where the second of each pair of grid units is played, in percent of the pair: 50 straight. */
  swing: number | null;
  velocity: { mean: number; deviation: number; low: number; high: number } | null;
  medianLengthMs: number | null;
  /** Pairs of one pitch and channel that sound at once. */
  overlaps: number;
  /** The likeliest key by its sounding pitches; null of drums. */
  key: string | null;
  grids: GridReading[];
}

/** Measures the notes of a part against a grid. */
export function readPart(notes: NoteTable, grid: NoteValue, timeline: Timeline): PartReading {
  if (notes.length === 0)
    return {
      notes: 0,
      biasMs: null,
      spreadMs: null,
      offMs: null,
      swing: null,
      velocity: null,
      medianLengthMs: null,
      overlaps: 0,
      key: null,
      grids: [],
    };
  const deviations = deviationsMs(notes, grid, timeline);
  const { mean, deviation } = momentsOf(deviations.ms);
  const velocity = momentsOf(notes.velocity);
  const lengths = notes.start.map(
    (start, row) =>
      1000 * (ticksToSeconds(timeline.tempo, notes.end[row]) - ticksToSeconds(timeline.tempo, start)),
  );
  const isDrums = notes.channel.every((channel) => channel === DRUM_CHANNEL);
  return {
    notes: notes.length,
    biasMs: mean,
    spreadMs: deviation,
    offMs: Math.hypot(mean, deviation),
    swing: swingOf(notes, grid, timeline),
    velocity: { ...velocity, low: least(notes.velocity), high: -least(notes.velocity.map((each) => -each)) },
    medianLengthMs: middleOf(lengths.sort()),
    overlaps: overlapsIn(notes),
    key: isDrums ? null : (estimateKey(notes)?.key ?? null),
    grids: gridReadingsOf(notes, timeline),
  };
}

const least = (values: Float64Array): number => values.reduce((low, value) => Math.min(low, value), Infinity);

/**
 * Swing: over the notes whose nearest straight line is the second of its pair of grid units, the mean of (start -
 * start of the pair) as a percentage of the pair; pairs count from the bar line. Null without such notes.
 */
export function swingOf(notes: NoteTable, grid: NoteValue, timeline: Timeline): number | null {
  const { meter, ticksPerQuarter } = timeline;
  const step = quartersOf(grid) * ticksPerQuarter;
  const lines = new Float64Array(notes.length);
  nearestLines(createGrid(meter, [grid]), notes.start, lines);
  let [sum, count] = [0, 0];
  for (let row = 0; row < notes.length; row++) {
    const bar = barAt(meter, lines[row] + 1e-6);
    const place = Math.round((lines[row] - bar.start) / step);
    if (place % 2 === 0) continue;
    sum += (notes.start[row] - (bar.start + (place - 1) * step)) / (2 * step);
    count++;
  }
  return count === 0 ? null : (100 * sum) / count;
}

function overlapsIn({ length, channel, pitch, start, end }: NoteTable): number {
  // Of nearly every key one note sounds at a time: its end stands by itself, the others in a heap.
  const latest = new Float64Array(16 * 128);
  const others = new Map<number, Heap<number>>();
  let pairs = 0;
  for (let row = 0; row < length; row++) {
    const key = channel[row] * 128 + pitch[row];
    const [from, to] = [Math.round(start[row]), Math.round(end[row])];
    const open = others.get(key);
    if (open) {
      for (let first = open.first(); first !== undefined && first <= from; first = open.first()) open.take();
      pairs += open.size;
    }
    if (latest[key] > from) {
      pairs++;
      const more = open ?? createHeap<number>((one, other) => one < other);
      more.add(latest[key]);
      others.set(key, more);
    }
    latest[key] = to;
  }
  return pairs;
}
