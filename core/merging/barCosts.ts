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
import { greatestOf } from '../model';
import type { BarCosts } from './tightest';

/** A source's note starts in the session's ticks, in order. */
export interface Starts {
  readonly start: Float64Array;
  readonly velocity?: Float64Array;
}

/**
 * How a source plays in one bar: how many notes, their root mean square about the source's own bias in ms, and their
 * mean velocity (NaN without notes).
 */
export interface BarReading {
  notes: number;
  spreadMs: number;
  velocity: number;
}

/**
 * A source read bar by bar: its bias (the median deviation of all its notes, in ms; 0 without notes), and a reading a
 * bar from bar 1 on.
 */
export interface SourceReading {
  biasMs: number;
  /** The same spread over all its notes; NaN without notes. */
  spreadMs: number;
  bars: BarReading[];
}

/**
 * Bars that are read one by one where they are to be shown; what is played after them counts for the bias and the
 * spread alone.
 */
export const MOST_SHOWN_BARS = 20_000;

/**
 * Reads a performance bar by bar against a grid. The deviation of a note is its start minus the nearest line, in ms,
 * minus the median deviation of the whole source, so that one who plays steadily late is tight; bars are musical
 * bars, the first `MOST_SHOWN_BARS` of them. Where the notes come from several performances `biasOf` gives the bias of
 * the one a note (its row) is of, in ms.
 */
export function readBars(
  starts: Starts,
  grid: NoteValue,
  timeline: Timeline,
  biasOf?: (row: number) => number,
): SourceReading {
  const { biasMs, spreadMs, bars } = readHeldBars(starts, grid, timeline, biasOf);
  const last = [...bars.keys()].findLast((bar) => bar < MOST_SHOWN_BARS) ?? -1;
  const silent: BarReading = { notes: 0, spreadMs: NaN, velocity: NaN };
  return {
    biasMs,
    spreadMs,
    bars: Array.from({ length: last + 1 }, (_, bar) => bars.get(bar) ?? silent),
  };
}

/**
 * The same of the bars alone that hold a note, by their number from 0 and in their order: however far apart they lie,
 * there are no more than notes.
 */
export interface HeldBars extends Omit<SourceReading, 'bars'> {
  bars: ReadonlyMap<number, BarReading>;
}

export function readHeldBars(
  { start, velocity }: Starts,
  grid: NoteValue,
  timeline: Timeline,
  biasOf?: (row: number) => number,
): HeldBars {
  const lines = new Float64Array(start.length);
  nearestLines(createGrid(timeline.meter, [grid]), start, lines);
  const ms = (tick: number) => ticksToSeconds(timeline.tempo, tick) * 1000;
  const late = Array.from(start, (tick, row) => ms(tick) - ms(lines[row]));
  const biasMs = late.length === 0 ? 0 : median(late);
  const places = musicalPlaces(start, timeline);
  const numberOf = createMusicalBars(timeline);
  const sums = new Map<number, { notes: number; squares: number; loudness: number }>();
  let total = 0;
  late.forEach((deviation, row) => {
    const bar = numberOf(places[row]) - 1;
    let sum = sums.get(bar);
    if (!sum) sums.set(bar, (sum = { notes: 0, squares: 0, loudness: 0 }));
    sum.notes++;
    sum.squares += (deviation - (biasOf?.(row) ?? biasMs)) ** 2;
    sum.loudness += velocity?.[row] ?? NaN;
  });
  const bars = new Map<number, BarReading>();
  for (const [bar, { notes, squares, loudness }] of sums) {
    total += squares;
    bars.set(bar, { notes, spreadMs: Math.sqrt(squares / notes), velocity: loudness / notes });
  }
  return { biasMs, spreadMs: Math.sqrt(total / late.length), bars };
}

/** How many bars several sources have together. */
export const barsOf = (readings: readonly SourceReading[]): number =>
  greatestOf([{ bars: [] }, ...readings], ({ bars }) => bars.length);

/**
 * What each source costs in one bar by its tightness: the root mean square of its deviations there, and `missingMs`
 * for each note it has fewer than the fullest. NaN for a source without a note in it.
 */
export function costsOfBar(own: readonly (BarReading | undefined)[], missingMs: number): BarCosts {
  const fullest = greatestOf(own, (reading) => reading?.notes ?? 0);
  return own.map((reading) =>
    reading && reading.notes > 0 ? reading.spreadMs + missingMs * (fullest - reading.notes) : NaN,
  );
}

/** The same for every bar. */
export function costsByTightness(readings: readonly SourceReading[], missingMs: number): BarCosts[] {
  return Array.from({ length: barsOf(readings) }, (_, bar) =>
    costsOfBar(
      readings.map(({ bars }) => bars[bar] as BarReading | undefined),
      missingMs,
    ),
  );
}

/**
 * What is looked for in a bar: the least spread, the most notes, the loudest playing, or a mean velocity nearest to
 * one.
 */
export type Wanted =
  | { by: 'tightest' | 'fullest' | 'loudest'; missing: number }
  | { by: 'nearest'; velocity: number; missing: number };

/**
 * What each source costs in each bar by what is wanted, and `missing` for each note it has fewer than the fullest: ms
 * of spread, notes that are missing, steps of velocity below 127 or from the one named; with `faultsOf` for each note
 * that is missing, wrong or extra by a score instead. NaN for a source without a note in a bar.
 */
export function costsBy(
  readings: readonly SourceReading[],
  wanted: Wanted,
  faultsOf?: (source: number, bar: number) => number,
): BarCosts[] {
  if (wanted.by === 'tightest' && !faultsOf) return costsByTightness(readings, wanted.missing);
  return Array.from({ length: barsOf(readings) }, (_, bar) => {
    const own = readings.map(({ bars }) => bars[bar] as BarReading | undefined);
    const fullest = Math.max(...own.map((reading) => reading?.notes ?? 0));
    return own.map((reading, source) => {
      if (!reading || reading.notes === 0) return NaN;
      const gap = faultsOf ? faultsOf(source, bar) : fullest - reading.notes;
      if (wanted.by === 'fullest') return gap;
      if (wanted.by === 'tightest') return reading.spreadMs + wanted.missing * gap;
      const off =
        wanted.by === 'nearest' ? Math.abs(reading.velocity - wanted.velocity) : 127 - reading.velocity;
      return off + wanted.missing * gap;
    });
  });
}
