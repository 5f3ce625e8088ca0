import type { NoteTable } from '../model';
import { barAt, quartersOf, ticksToSeconds, type Timeline } from '../time';
import { deviationsMs, momentsOf } from './deviations';
import { likelyGrid, type LikelyGrid } from './likelyGrid';

/** How one grid explains the playing. */
export interface GridReading {
  grid: string;
  /**
   * 1 where every note lies equally off its line, 0 where they lie anywhere: 1 minus the spread over that of evenly
   * scattered notes.
   */
  fit: number;
  /** Notes that would come to lie on another of their pitch and channel. */
  collisions: number;
}

/** Grids that are compared, coarse to fine. */
const CANDIDATES = ['1/4', '1/8', '1/8T', '1/16', '1/16T', '1/32'];

/** How each of the usual grids explains the playing. */
export const gridReadingsOf = (notes: NoteTable, timeline: Timeline): GridReading[] =>
  explained(notes, timeline).map(({ grid, fit, collisions }) => ({ grid, fit, collisions }));

/** What a grid would do to a part beside explaining it. */
export interface GridAdvice extends GridReading {
  /** Where its second lines stand, in percent of the pair: 50 straight, else the swing that is played. */
  swing: number;
  /** It is the one that was most likely meant: the coarsest that explains all, or the swung one. */
  isLikely: boolean;
  /**
   * Notes it would take to another place than the grid that is most likely meant: in between its lines, or to a
   * neighbouring one.
   */
  astray: number;
  /** Notes of a swing that is played which straight lines would flatten. */
  flattened: number;
  /** How far apart its lines are on the average, in ms. */
  stepMs: number;
  /** Its lines are hardly farther apart than the playing spreads, so that it is chance which of them a note goes to. */
  isTooFine: boolean;
}

/** A grid that explains less of a part than this was not meant. */
const LEAST_FIT = 0.2;

/** A note is as far off as this many spreads about once in twenty (two standard deviations of a normal spread). */
const USUAL_REACH = 2;
/** Lines that are nearer than this share of a step stand for each other. */
const SAME_LINE = 1e-3;

/** The grid that is most likely meant, swung where it is played so, and the usual ones, with what each would harm. */
export function gridAdviceOf(notes: NoteTable, timeline: Timeline): GridAdvice[] {
  if (notes.length === 0) return [];
  const likely = likelyGrid(notes, timeline);
  const own = explain(notes, likely.grid, timeline, likely.swing);
  const step = quartersOf(likely.grid) * timeline.ticksPerQuarter;
  // Which straight line stands for the swung one a note is meant for.
  const straight = likely.swing === 50 ? own.lines : unswung(own.lines, likely, timeline);
  const told = ({ grid, fit, collisions, stepMs }: Explained) => {
    const isTooFine = USUAL_REACH * own.deviation > stepMs / 2;
    return { grid, fit, collisions, stepMs, isTooFine };
  };
  const advice = CANDIDATES.map((grid): GridAdvice => {
    const read = explain(notes, grid, timeline);
    let [astray, flattened] = [0, 0];
    for (let row = 0; row < notes.length; row++) {
      const isAt = (line: number) => Math.abs(read.lines[row] - line) <= SAME_LINE * step;
      if (isAt(own.lines[row])) continue;
      // Straight lines take a swung note to where it would stand unswung, or somewhere else.
      if (likely.swing !== 50 && isAt(straight[row])) flattened++;
      else astray++;
    }
    const isLikely = likely.swing === 50 && grid === likely.grid && read.fit >= LEAST_FIT;
    return { ...told(read), swing: 50, isLikely, astray, flattened };
  });
  const swung = { ...told(own), swing: likely.swing, isLikely: true, astray: 0, flattened: 0 };
  const all = likely.swing === 50 ? advice : [swung, ...advice];
  return [...all.filter(({ isLikely }) => isLikely), ...all.filter(({ isLikely }) => !isLikely)];
}

/** Swung lines where they would stand straight. */
function unswung(
  lines: Float64Array,
  { grid, swing }: LikelyGrid,
  { meter, ticksPerQuarter }: Timeline,
): Float64Array {
  const pair = 2 * quartersOf(grid) * ticksPerQuarter;
  return lines.map((line) => {
    const { start } = barAt(meter, line + 1e-6);
    const share = ((line - start) / pair) % 1;
    return Math.abs(share - swing / 100) < 1e-3 ? line + (0.5 - share) * pair : line;
  });
}

const explained = (notes: NoteTable, timeline: Timeline) =>
  notes.length === 0 ? [] : CANDIDATES.map((each) => explain(notes, each, timeline));

type Explained = ReturnType<typeof explain>;

function explain(notes: NoteTable, grid: string, timeline: Timeline, swing = 50) {
  const { ms, lines } = deviationsMs(notes, grid, timeline, swing);
  const { deviation } = momentsOf(ms);
  const last = notes.start[notes.length - 1];
  const first = notes.start[0];
  // The mean length of a grid step over the part, whatever the tempo does.
  const step = quartersOf(grid) * timeline.ticksPerQuarter;
  const seconds = ticksToSeconds(timeline.tempo, last + step) - ticksToSeconds(timeline.tempo, first);
  const stepMs = (1000 * seconds * step) / (last + step - first);
  // Notes are in order, so their lines are too: those of a key that meet follow one another.
  const lineOfKey = new Float64Array(16 * 128).fill(NaN);
  let collisions = 0;
  for (let row = 0; row < notes.length; row++) {
    const key = notes.channel[row] * 128 + notes.pitch[row];
    if (lineOfKey[key] === lines[row]) collisions++;
    lineOfKey[key] = lines[row];
  }
  const fit = Math.min(1, Math.max(0, 1 - deviation / (stepMs / Math.sqrt(12))));
  return { grid, fit, collisions, stepMs, lines, deviation };
}
