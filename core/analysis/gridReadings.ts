import type { NoteTable } from '../model';
import { quartersOf, ticksToSeconds, type Timeline } from '../time';
import { deviationsMs, momentsOf } from './deviations';
import { likelyGrid } from './likelyGrid';

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
  /**
   * Notes it would take to another place than the grid that is most likely meant: in between its lines, or to a
   * neighbouring one.
   */
  astray: number;
  /** How far apart its lines are on the average, in ms. */
  stepMs: number;
  /** Its lines are hardly farther apart than the playing spreads, so that it is chance which of them a note goes to. */
  isTooFine: boolean;
}

/** A note is as far off as this many spreads about once in twenty (two standard deviations of a normal spread). */
const USUAL_REACH = 2;

/** The usual grids with what each would harm. */
export function gridAdviceOf(notes: NoteTable, timeline: Timeline): GridAdvice[] {
  if (notes.length === 0) return [];
  const likely = likelyGrid(notes, timeline).grid;
  const { ms, lines: meant } = deviationsMs(notes, likely, timeline);
  const { deviation } = momentsOf(ms);
  return explained(notes, timeline).map(({ lines, ...rest }) => {
    let astray = 0;
    for (let row = 0; row < notes.length; row++) if (Math.abs(lines[row] - meant[row]) > 1e-3) astray++;
    return { ...rest, astray, isTooFine: USUAL_REACH * deviation > rest.stepMs / 2 };
  });
}

const explained = (notes: NoteTable, timeline: Timeline) =>
  notes.length === 0 ? [] : CANDIDATES.map((each) => explain(notes, each, timeline));

function explain(notes: NoteTable, grid: string, timeline: Timeline) {
  const { ms, lines } = deviationsMs(notes, grid, timeline);
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
  return { grid, fit, collisions, stepMs, lines };
}
