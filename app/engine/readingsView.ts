import {
  gridReadingsOf,
  latenessOf,
  lookThrough,
  swingOf,
  type Evaluation,
  type Finding,
  type GridReading,
  type NoteTable,
  type NoteValue,
  type Part,
  type Timeline,
} from '@ordle/core';
import { cleanedRuler, type Ruler } from './rulers';

/** Bins of a histogram of deviations, and how wide each is, in ms; the outermost hold all that lies farther. */
export const [BINS, BIN_MS] = [33, 5];

/** How a part lies against its grid. Milliseconds, late above 0. */
export interface LieOfPart {
  notes: number;
  /** Mean, and standard deviation about it; null without notes. */
  biasMs: number | null;
  spreadMs: number | null;
  /** Swing as it is played, in percent; null where nothing tells it. */
  swing: number | null;
  velocity: number | null;
  bins: Uint32Array;
}

/** A part as played and as cleaned, against one grid. */
export interface PartReadings {
  partId: string;
  grid: NoteValue;
  played: LieOfPart;
  cleaned: LieOfPart;
  /** How each usual grid explains the part as played. */
  grids: GridReading[];
}

export interface ReadingsView {
  parts: PartReadings[];
  /** What is probably wrong with the parts as they are cleaned, in order of time. */
  findings: (Finding & { partId: string })[];
}

/** Measures every part and looks all of them through. */
export function readingsViewOf(
  parts: readonly { part: Part; evaluation: Evaluation }[],
  shown: NoteValue,
  timeline: Timeline,
): ReadingsView {
  const through = lookThrough(
    parts.map(({ part, evaluation: { assembly, stages } }) => ({
      part,
      material: stages[stages.length - 1],
      endTick: assembly.endTick,
    })),
    timeline,
  );
  return {
    parts: parts.map(({ part, evaluation: { stages } }): PartReadings => {
      const ruler = cleanedRuler(part, shown);
      const [{ notes }] = stages;
      return {
        partId: part.id,
        grid: ruler.grids[0],
        played: lieOf(notes, ruler, timeline),
        cleaned: lieOf(stages[stages.length - 1].notes, ruler, timeline),
        grids: gridReadingsOf(notes, timeline),
      };
    }),
    findings: through
      .flatMap(({ part, own }) => own.map((finding) => ({ ...finding, partId: part.id })))
      .sort((one, other) => one.tick - other.tick),
  };
}

function lieOf(notes: NoteTable, { grids, swing }: Ruler, timeline: Timeline): LieOfPart {
  const bins = new Uint32Array(BINS);
  const { length } = notes;
  if (length === 0) return { notes: 0, biasMs: null, spreadMs: null, swing: null, velocity: null, bins };
  const late = latenessOf(notes, grids, swing, timeline);
  let [sum, squares, loud] = [0, 0, 0];
  for (let row = 0; row < length; row++) {
    sum += late[row];
    squares += late[row] ** 2;
    loud += notes.velocity[row];
    const bin = Math.round(late[row] / BIN_MS) + (BINS - 1) / 2;
    bins[Math.min(BINS - 1, Math.max(0, bin))]++;
  }
  const mean = sum / length;
  return {
    notes: length,
    biasMs: mean,
    spreadMs: Math.sqrt(Math.max(0, squares / length - mean ** 2)),
    swing: swingOf(notes, grids[0], timeline),
    velocity: loud / length,
    bins,
  };
}
