import { likelyGrid, offMsOf } from '../analysis';
import type { NoteTable } from '../model';
import { listOf, type Part } from '../session';
import { kindOf } from '../steps';
import { nameOfNoteValue, type NoteValue, type Timeline } from '../time';
import { lateAgainst, meantPlaces, type PartAt } from './meant';

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

/** A grid as it is called: "1/16", "1/8 or 1/8T", "1/16, swing 58 %". */
export const rulerInWords = ({ grids, swing }: Ruler): string =>
  grids.map(nameOfNoteValue).join(' or ') + (swing === 50 ? '' : `, swing ${swing} %`);

/**
 * The grid the cleaned part is told by: that of its steps, else the one it was played to (`played`) where that is
 * swung, since straight lines would take its swing for lateness; else the one shown.
 */
export function cleanedRuler(part: Part, shown: NoteValue, played: NoteTable, timeline: Timeline): Ruler {
  const isRuled = listOf(part.steps).some(({ step }) => step.on && kindOf(step.kind).grid !== undefined);
  const likely = isRuled ? null : likelyGrid(played, timeline);
  return likely && likely.swing !== 50
    ? { grids: [likely.grid], swing: likely.swing }
    : rulerOf(part, part.steps.order.length, shown);
}

/** Kept for stages that are still the same: while a slider is dragged only the last ones change. */
const knownOffMs = new WeakMap<NoteTable, { of: string; timeline: Timeline; offMs: number }>();

/** How late each note is at a stop against where it is meant to be, in ms. */
export const lateAt = (at: PartAt): Float32Array =>
  lateAgainst(at.evaluation.stages[at.stop].notes, meantPlaces(at), at.timeline);

/** How far the notes at a stop are off where they are meant to be, in ms; as played off the grid shown. */
export function offMsAt(at: PartAt): number {
  const { part, evaluation, stop, shown, timeline } = at;
  const { notes } = evaluation.stages[stop];
  const ruling = listOf(part.steps)
    .slice(0, stop)
    .flatMap(({ step }) => (step.on && kindOf(step.kind).grid ? [step] : []));
  const of = JSON.stringify([shown, part.sound.drums, ruling]);
  const known = knownOffMs.get(notes);
  if (known?.of === of && known.timeline === timeline) return known.offMs;
  const offMs = offMsOf(lateAt(at));
  knownOffMs.set(notes, { of, timeline, offMs });
  return offMs;
}

/** The same of the part as it is cleaned. */
export const cleanedOffMs = (at: Omit<PartAt, 'stop'>): number =>
  offMsAt({ ...at, stop: at.evaluation.stages.length - 1 });
