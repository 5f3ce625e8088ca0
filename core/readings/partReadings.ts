import {
  chartOf,
  gridAdviceOf,
  lieOf,
  measureNotes,
  notesOfBin,
  swingOf,
  type ChartBin,
  type ChartKind,
  type GridAdvice,
  type Measured,
} from '../analysis';
import { type Evaluation } from '../evaluate';
import { lookThrough, type Finding } from '../findings';
import { type Part } from '../session';
import { type Where } from '../steps';
import { type NoteValue, type Timeline } from '../time';
import { meantPlaces } from './meant';
import { cleanedRuler } from './rulers';

/** How a part, or some of its notes, lies against its grid. Milliseconds, late above 0. */
export interface LieOfPart {
  notes: number;
  /** Mean, and standard deviation about it; null without notes. */
  biasMs: number | null;
  spreadMs: number | null;
  biasTicks: number | null;
  spreadTicks: number | null;
  /** Swing as it is played, in percent; null where nothing tells it. */
  swing: number | null;
  velocity: number | null;
  /** Standard deviation of the velocities, and the least and the greatest. */
  velocities: { deviation: number; low: number; high: number } | null;
}

/** The charts each part is shown by beside its figures. */
export const SMALL_CHARTS = ['off-the-lines', 'by-place', 'along-bars'] as const;

/** A part as played and as cleaned, against one grid. */
export interface PartReadings {
  partId: string;
  grid: NoteValue;
  /** How that grid swings, in percent: 50 straight. */
  swing: number;
  /** The pieces a drum part plays, by note number and wherever they are; none of other parts. */
  pieces: number[];
  played: LieOfPart;
  cleaned: LieOfPart;
  charts: Record<(typeof SMALL_CHARTS)[number], ChartBin[]>;
  /** How each usual grid explains the part as played, and what it would harm. */
  grids: GridAdvice[];
}

export interface ReadingsOfParts {
  parts: PartReadings[];
  /** What is probably wrong with the parts as they are cleaned, in order of time. */
  findings: (Finding & { partId: string })[];
  /** The last end of all parts, in ticks. */
  endTick: number;
}

/** A part with what it was worked out to. */
export interface Read {
  part: Part;
  evaluation: Evaluation;
}

/** What parts are measured by: the grid shown where they have none of their own, and where in them. */
interface ReadBy {
  shown: NoteValue;
  timeline: Timeline;
  where: Where;
}

/** Measures every part and looks all of them through; `byScore` says what the score beside a part knows of it. */
export function readingsOfParts(
  parts: readonly Read[],
  by: ReadBy,
  byScore: (part: Part) => readonly Finding[] | undefined = () => undefined,
): ReadingsOfParts {
  const through = lookThrough(
    parts.map(({ part, evaluation: { assembly, stages } }) => ({
      part,
      material: stages[stages.length - 1],
      endTick: assembly.endTick,
      byScore: byScore(part),
    })),
    by.timeline,
  );
  return {
    parts: parts.map((read) => readingsOf(read, by)),
    findings: through
      .flatMap(({ part, own }) => own.map((finding) => ({ ...finding, partId: part.id })))
      .sort((one, other) => one.tick - other.tick),
    endTick: parts.reduce((last, { evaluation }) => Math.max(last, evaluation.assembly.endTick), 0),
  };
}

function readingsOf(read: Read, by: ReadBy): PartReadings {
  const { part, evaluation } = read;
  const { grid, swing, before, after } = sidesOf(read, by);
  const { timeline } = by;
  return {
    partId: part.id,
    grid,
    swing,
    pieces: part.sound.drums ? [...new Set(evaluation.stages[0].notes.pitch)].sort((a, b) => a - b) : [],
    played: figuresOf(before, grid),
    cleaned: figuresOf(after, grid),
    charts: {
      'off-the-lines': chartOf('off-the-lines', before, after),
      'by-place': chartOf('by-place', before, after),
      'along-bars': chartOf('along-bars', before, after),
    },
    grids: gridAdviceOf(before.notes, timeline),
  };
}

/** One chart of a part. */
export function chartOfPart(kind: ChartKind, read: Read, by: ReadBy): ChartBin[] {
  const { before, after } = sidesOf(read, by);
  return chartOf(kind, before, after);
}

/** Ids of the notes in a bin of such a chart, and where the first of them starts, in ticks. */
export function notesOfChart(
  { kind, side, bin }: { kind: ChartKind; side: 'before' | 'after'; bin: number },
  read: Read,
  by: ReadBy,
): { ids: Float64Array; tick: number } {
  const sides = sidesOf(read, by);
  const ids = notesOfBin(kind, sides, side, bin);
  const { notes } = sides[side];
  const row = notes.id.indexOf(ids[0] ?? NaN);
  return { ids, tick: notes.start[row] ?? 0 };
}

function sidesOf({ part, evaluation }: Read, { shown, timeline, where }: ReadBy) {
  const { stages } = evaluation;
  const ruler = cleanedRuler(part, shown, stages[0].notes, timeline);
  const last = stages.length - 1;
  const [own] = ruler.grids;
  const isSwung = ruler.swing !== 50 && typeof own === 'string';
  const at = {
    part,
    evaluation,
    stop: last,
    timeline,
    shown: isSwung ? own : shown,
    shownSwing: isSwung ? ruler.swing : 50,
  };
  const meant = meantPlaces(at);
  // As played each note goes by the lines of the same steps, and by nothing they mean beside them.
  const asPlayed = meantPlaces(at, stages[0].notes);
  return {
    grid: ruler.grids[0],
    swing: ruler.swing,
    before: measureNotes(stages[0], ruler, timeline, where, asPlayed),
    after: measureNotes(stages[last], ruler, timeline, where, meant),
  };
}

function figuresOf(measured: Measured, grid: NoteValue): LieOfPart {
  const { notes, timeline } = measured;
  if (notes.length === 0)
    return {
      notes: 0,
      biasMs: null,
      spreadMs: null,
      biasTicks: null,
      spreadTicks: null,
      swing: null,
      velocity: null,
      velocities: null,
    };
  let [sum, squares, low, high] = [0, 0, 127, 0];
  for (const each of notes.velocity) {
    sum += each;
    squares += each * each;
    low = Math.min(low, each);
    high = Math.max(high, each);
  }
  const mean = sum / notes.length;
  const deviation = Math.sqrt(Math.max(0, squares / notes.length - mean * mean));
  return {
    notes: notes.length,
    ...lieOf(measured),
    swing: swingOf(notes, grid, timeline),
    velocity: mean,
    velocities: { deviation, low, high },
  };
}
