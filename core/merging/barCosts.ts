import { median } from '../analysis';
import {
  createGrid,
  createMusicalBars,
  musicalPlaces,
  nearestLines,
  ticksToSeconds,
  type NoteValue,
  type Timeline,
} from '../time';
import type { BarCosts } from './tightest';

/** A source's note starts in the session's ticks, in order. */
export interface Starts {
  readonly start: Float64Array;
}

/** How a source plays in one bar: how many notes, and their root mean square about the source's own bias, in ms (NaN without notes). */
export interface BarReading {
  notes: number;
  spreadMs: number;
}

/** A source read bar by bar: its bias (the median deviation of all its notes, in ms; 0 without notes), and a reading a bar from bar 1 on. */
export interface SourceReading {
  biasMs: number;
  bars: BarReading[];
}

/**
 * Reads a performance bar by bar against a grid. The deviation of a note is its start minus the nearest line, in ms, minus the median deviation
 * of the whole source, so that one who plays steadily late is tight; bars are musical bars.
 */
export function readBars({ start }: Starts, grid: NoteValue, timeline: Timeline): SourceReading {
  const lines = new Float64Array(start.length);
  nearestLines(createGrid(timeline.meter, [grid]), start, lines);
  const ms = (tick: number) => ticksToSeconds(timeline.tempo, tick) * 1000;
  const late = Array.from(start, (tick, row) => ms(tick) - ms(lines[row]));
  const biasMs = late.length === 0 ? 0 : median(late);
  const places = musicalPlaces(start, timeline);
  const numberOf = createMusicalBars(timeline);
  const squares: number[] = [];
  const counts: number[] = [];
  late.forEach((deviation, row) => {
    const bar = numberOf(places[row]) - 1;
    while (counts.length <= bar) {
      counts.push(0);
      squares.push(0);
    }
    counts[bar]++;
    squares[bar] += (deviation - biasMs) ** 2;
  });
  return {
    biasMs,
    bars: counts.map((notes, bar) => ({ notes, spreadMs: Math.sqrt(squares[bar] / notes) })),
  };
}

/** How many bars several sources have together. */
export const barsOf = (readings: readonly SourceReading[]): number =>
  Math.max(0, ...readings.map(({ bars }) => bars.length));

/**
 * What each source costs in each bar by its tightness: the root mean square of its deviations there, and `missingMs` for each note it has fewer than the
 * fullest. NaN for a source without a note in a bar.
 */
export function costsByTightness(readings: readonly SourceReading[], missingMs: number): BarCosts[] {
  return Array.from({ length: barsOf(readings) }, (_, bar) => {
    const own = readings.map(({ bars }) => bars[bar] as BarReading | undefined);
    const fullest = Math.max(...own.map((reading) => reading?.notes ?? 0));
    return own.map((reading) =>
      reading && reading.notes > 0 ? reading.spreadMs + missingMs * (fullest - reading.notes) : NaN,
    );
  });
}
