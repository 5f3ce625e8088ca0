import { z } from 'zod';
import type { NoteTable } from '../model';
import { createGrid, meterRowAt, nearestLine, quartersOf, type NoteValue, type Timeline } from '../time';
import { noteValueSchema } from './settings';

/**
 * A saved pattern of timing and accents: for every line of a grid over a cycle how far it is shifted (in quarters)
 * and how strong (0-1).
 */
export const groovePatternSchema = z.strictObject({
  name: z.string().max(200),
  grid: noteValueSchema,
  beats: z.number().positive('must be above 0').max(64, 'must be at most 64'),
  points: z
    .array(
      z.strictObject({
        at: z.number().min(0),
        shift: z.number().min(-4).max(4),
        accent: z.number().min(0).max(1),
      }),
    )
    .min(1, 'must hold at least one point')
    .max(4096),
});

export type GroovePattern = z.infer<typeof groovePatternSchema>;

/** A groove of `beats` quarters on a grid, its shifts and accents by the number of the line. */
function pattern(
  name: string,
  grid: string,
  beats: number,
  shift: (line: number) => number,
  accent: (line: number) => number,
): GroovePattern {
  const step = quartersOf(grid);
  const lines = Math.round(beats / step);
  return {
    name,
    grid,
    beats,
    points: Array.from({ length: lines }, (_, line) => ({
      at: line * step,
      shift: shift(line),
      accent: accent(line),
    })),
  };
}

/** Swing moves every second line to `percent` of its pair: by (percent - 50) / 50 of a step. */
const swing = (name: string, grid: string, percent: number) =>
  pattern(
    name,
    grid,
    4,
    (line) => (line % 2 === 1 ? ((percent - 50) / 50) * quartersOf(grid) : 0),
    (line) => (line % 2 === 1 ? 0.55 : 0.7),
  );

/**
 * Grooves of our own making. Shifts of the pushed and laid back ones are in quarters: 0.03 is some 17 ms at 104 bpm.
 */
export const BUILT_IN_GROOVES: readonly GroovePattern[] = [
  pattern(
    'straight',
    '1/16',
    4,
    () => 0,
    () => 0.6,
  ),
  swing('light eighth swing', '1/8', 55),
  swing('eighth swing', '1/8', 60),
  swing('heavy eighth swing', '1/8', 66.667),
  swing('light sixteenth swing', '1/16', 54),
  swing('sixteenth swing', '1/16', 58),
  swing('heavy sixteenth swing', '1/16', 63),
  pattern(
    'pushed',
    '1/8',
    4,
    () => -0.03,
    () => 0.6,
  ),
  pattern(
    'laid back',
    '1/8',
    4,
    (line) => (line % 2 === 0 && line % 4 !== 0 ? 0.045 : 0.03),
    () => 0.6,
  ),
  pattern(
    'weight on one',
    '1/8',
    4,
    () => 0,
    (line) => [1, 0.4, 0.6, 0.4, 0.75, 0.4, 0.6, 0.4][line],
  ),
  pattern(
    'weight on two and four',
    '1/8',
    4,
    () => 0,
    (line) => [0.6, 0.4, 1, 0.45, 0.6, 0.4, 1, 0.5][line],
  ),
  pattern(
    'rocking three',
    '1/8',
    3,
    (line) => (line === 3 ? 0.02 : 0),
    (line) => [1, 0.4, 0.5, 0.8, 0.4, 0.5][line],
  ),
];

/**
 * Finds for a place the point of a groove it belongs to: the nearest, at most half a grid step away; -1 where there
 * is none.
 */
export function createPointFinder(groove: GroovePattern, timeline: Timeline): (tick: number) => number {
  const { meter, ticksPerQuarter } = timeline;
  const cycle = groove.beats * ticksPerQuarter;
  const reach = (quartersOf(groove.grid) * ticksPerQuarter) / 2 + 1e-6;
  const at = Float64Array.from(groove.points, (point) => point.at * ticksPerQuarter);
  return (tick) => {
    const row = meterRowAt(meter, tick);
    const barTicks = meter.barTicks[row];
    const into = tick - meter.tick[row];
    // Cycles no longer than a bar start anew at each bar line; longer ones run on from where the meter began.
    const within =
      cycle <= barTicks + 1e-6
        ? (into - Math.floor(into / barTicks) * barTicks) % cycle
        : ((into % cycle) + cycle) % cycle;
    let best = -1;
    let distance = reach;
    for (let point = 0; point < at.length; point++) {
      const straight = Math.abs(within - at[point]);
      const gap = Math.min(straight, Math.abs(cycle - straight));
      if (gap < distance) {
        distance = gap;
        best = point;
      }
    }
    return best;
  };
}

/**
 * A groove as taken from notes, with how many strokes each point rests on and how much they scatter (deviation, in
 * quarters).
 */
export interface TakenGroove {
  groove: GroovePattern;
  strokes: number[];
  scatter: number[];
}

/**
 * Takes the groove of some notes: at every line of `grid` over a cycle of `beats` quarters the mean distance of the
 * strokes from the line and their mean velocity as a share of 127. Repeats of the cycle are averaged; a line nobody
 * struck is straight and of mean accent.
 */
export function takeGroove(
  notes: NoteTable,
  name: string,
  grid: NoteValue,
  beats: number,
  timeline: Timeline,
): TakenGroove {
  const { ticksPerQuarter } = timeline;
  const step = quartersOf(grid);
  const lines = Math.max(1, Math.round(beats / step));
  const empty: GroovePattern = {
    name,
    grid,
    beats,
    points: Array.from({ length: lines }, (_, line) => ({ at: line * step, shift: 0, accent: 0.5 })),
  };
  const find = createPointFinder(empty, timeline);
  const lineGrid = createGrid(timeline.meter, [grid]);
  const place = { line: 0, step: 0 };
  const sums = empty.points.map(() => ({ count: 0, shift: 0, square: 0, accent: 0 }));
  for (let row = 0; row < notes.length; row++) {
    const line = nearestLine(lineGrid, notes.start[row], place).line;
    const sum = sums[find(line)];
    if (!sum) continue;
    const shift = (notes.start[row] - line) / ticksPerQuarter;
    sum.count++;
    sum.shift += shift;
    sum.square += shift * shift;
    sum.accent += notes.velocity[row] / 127;
  }
  const struck = sums.filter(({ count }) => count > 0);
  const meanAccent =
    struck.length === 0
      ? 0.5
      : struck.reduce((total, { accent, count }) => total + accent / count, 0) / struck.length;
  return {
    groove: {
      ...empty,
      points: empty.points.map(({ at }, index) => {
        const { count, shift, accent } = sums[index];
        return count === 0
          ? { at, shift: 0, accent: meanAccent }
          : { at, shift: shift / count, accent: accent / count };
      }),
    },
    strokes: sums.map(({ count }) => count),
    scatter: sums.map(({ count, shift, square }) =>
      count < 2 ? 0 : Math.sqrt(Math.max(0, square / count - (shift / count) ** 2)),
    ),
  };
}

/** Strokes of one line scattered farther than this share of a grid step say nothing of where it is meant. */
const WIDE_SCATTER = 0.2;

/** Which points of a taken groove are not to be trusted: struck fewer than twice, or struck far apart. */
export function weakPoints({ groove, strokes, scatter }: TakenGroove): boolean[] {
  const step = quartersOf(groove.grid);
  return strokes.map((count, point) => count < 2 || scatter[point] > WIDE_SCATTER * step);
}
