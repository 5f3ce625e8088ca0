import { latenessOf, offMsOf } from '../analysis';
import { type NoteTable } from '../model';
import { listOf, type Part } from '../session';
import { kindOf } from '../steps';
import { type NoteValue, type Timeline } from '../time';

/** Lines that lateness is told by. */
export interface Ruler {
  grids: NoteValue[];
  swing: number;
}

/**
 * The grid lateness is told against: that of the current step, else of the last quantize before it, else the one
 * shown.
 */
export function rulerOf(part: Part, stop: number, shown: NoteValue): Ruler {
  const steps = listOf(part.steps).slice(0, Math.max(stop, 1));
  const ruling = steps.findLast(({ step }) => step.on && kindOf(step.kind).grid !== undefined)?.step;
  return (ruling && kindOf(ruling.kind).grid?.(ruling)) ?? { grids: [shown], swing: 50 };
}

/** The grid the cleaned part is told by. */
export const cleanedRuler = (part: Part, shown: NoteValue): Ruler =>
  rulerOf(part, part.steps.order.length, shown);

/** Kept for stages that are still the same: while a slider is dragged only the last ones change. */
const knownOffMs = new WeakMap<NoteTable, { of: string; timeline: Timeline; offMs: number }>();

/** How far notes are off a grid, in ms. */
export function offMsAt(notes: NoteTable, ruler: Ruler, timeline: Timeline): number {
  const of = JSON.stringify(ruler);
  const known = knownOffMs.get(notes);
  if (known?.of === of && known.timeline === timeline) return known.offMs;
  const offMs = offMsOf(latenessOf(notes, ruler.grids, ruler.swing, timeline));
  knownOffMs.set(notes, { of, timeline, offMs });
  return offMs;
}
