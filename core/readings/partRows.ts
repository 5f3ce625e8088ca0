import { blocksOf, layoutOf, muteBlock, withBlocks } from '../arranging';
import type { Evaluator } from '../evaluate';
import type { NoteTable } from '../model';
import type { Part, Session } from '../session';
import { barAt, type Timeline } from '../time';
import { NO_LAID_NOTES, laidNotes, type LaidNotes } from './laidNotes';
import { cleanedOffMs } from './rulers';

/** A part along the bars. */
export interface PartRow {
  partId: string;
  /** As it is cleaned and laid, in ticks; with what lies in muted blocks. */
  notes: LaidNotes;
  /** Where what its layout lays ends, before it is laid: the bar line at or after its last note, in quarters. */
  end: number;
  /** Last start (-1 without notes) and last end of a note that is heard, in ticks. */
  lastStart: number;
  lastEnd: number;
  /** How far it is off the grid as it is cleaned, in ms; NaN without notes. */
  offMs: number;
  /** Why it cannot be shown, such as a source that was deleted; null where it can. */
  fault: string | null;
}

/** A part along the bars, its takes at hand. */
export function rowOf(part: Part, session: Session, timeline: Timeline, evaluator: Evaluator): PartRow {
  const evaluation = evaluator.evaluate(part, session, timeline);
  const { stages } = evaluation;
  const { notes } = stages[stages.length - 1];
  const layout = layoutOf(part);
  const before = layout ? stages[part.steps.order.indexOf(layout.id)].notes : notes;
  const whole = withAllBlocks(part);
  const shown = whole === part ? stages : evaluator.evaluate(whole, session, timeline).stages;
  return {
    partId: part.id,
    notes: laidNotes(shown[shown.length - 1].notes),
    end: barEndAfter(before, timeline) / timeline.ticksPerQuarter,
    lastStart: notes.length === 0 ? -1 : notes.start[notes.length - 1],
    lastEnd: lastEndOf(notes),
    offMs: notes.length === 0 ? NaN : cleanedOffMs({ part, evaluation, shown: '1/16', timeline }),
    fault: null,
  };
}

/** What stands in place of a part that cannot be worked out. */
export const faultyRow = (part: Part, fault: string): PartRow => ({
  partId: part.id,
  notes: NO_LAID_NOTES,
  end: 0,
  lastStart: -1,
  lastEnd: 0,
  offMs: NaN,
  fault,
});

/** Parts with nothing of their layouts muted, by their steps, so that their evaluation is kept. */
const unmuted = new WeakMap<Part['steps'], Part>();

/** The part as it would be with all of its blocks heard; itself where none is muted. */
function withAllBlocks(part: Part): Part {
  const layout = layoutOf(part);
  if (!layout?.step.blocks.some(({ muted }) => muted)) return part;
  const known = unmuted.get(part.steps);
  if (known && known.layers === part.layers) return { ...part, steps: known.steps };
  const blocks = blocksOf(part, 0).map((block) => muteBlock(block, false));
  const made = withBlocks(part, blocks, () => layout.id);
  unmuted.set(part.steps, made);
  return made;
}

function lastEndOf({ end }: NoteTable): number {
  let last = 0;
  for (const own of end) if (own > last) last = own;
  return last;
}

/**
 * The bar line at or after the last start, one bar at least; a last note that is held on over half a bar and more
 * takes those bars along.
 */
function barEndAfter(notes: NoteTable, { meter }: Timeline): number {
  const { start, length } = notes;
  const bar = barAt(meter, length === 0 ? 0 : Math.max(0, start[length - 1]));
  const held = lastEndOf(notes) - (bar.end - bar.start) / 2;
  return held > bar.end ? barAt(meter, held).end : bar.end;
}
