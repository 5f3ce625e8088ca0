import {
  barAt,
  blocksOf,
  handLineOf,
  labelsOf,
  layoutOf,
  listOf,
  muteBlock,
  sentenceOf,
  sharesInOrder,
  timelineOf,
  withBlocks,
  type Evaluation,
  type Evaluator,
  type HandLine,
  type NoteTable,
  type Part,
  type Session,
  type Split,
  type Timeline,
  cleanedRuler,
  offMsAt,
} from '@ordle/core';
import type { LaidNotes } from './takesView';

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

interface Studio {
  evaluator: Evaluator;
  summon(parts: readonly Part[], session: Session): Promise<void>;
}

const NOTHING: LaidNotes = {
  start: new Float64Array(0),
  end: new Float64Array(0),
  pitch: new Uint8Array(0),
  velocity: new Float64Array(0),
};

/** All parts; one that cannot be worked out says why, and the others are shown. */
export async function partRows(session: Session, { evaluator, summon }: Studio): Promise<PartRow[]> {
  const timeline = timelineOf(session);
  return Promise.all(
    listOf(session.parts).map(async (part): Promise<PartRow> => {
      try {
        await summon([part], session);
        const { stages } = evaluator.evaluate(part, session, timeline);
        const { notes } = stages[stages.length - 1];
        const layout = layoutOf(part);
        const before = layout ? stages[part.steps.order.indexOf(layout.id)].notes : notes;
        const whole = withAllBlocks(part);
        const shown = whole === part ? stages : evaluator.evaluate(whole, session, timeline).stages;
        const { start, end, pitch, velocity } = shown[shown.length - 1].notes;
        return {
          partId: part.id,
          notes: { start, end, pitch, velocity },
          end: barEndAfter(before, timeline) / timeline.ticksPerQuarter,
          lastStart: notes.length === 0 ? -1 : notes.start[notes.length - 1],
          lastEnd: lastEndOf(notes),
          offMs: notes.length === 0 ? NaN : offMsAt(notes, cleanedRuler(part, '1/16'), timeline),
          fault: null,
        };
      } catch (error) {
        return {
          partId: part.id,
          notes: NOTHING,
          end: 0,
          lastStart: -1,
          lastEnd: 0,
          offMs: NaN,
          fault: sentenceOf(error),
        };
      }
    }),
  );
}

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

/** One share of a part. */
export interface ShareOf {
  label: string;
  notes: number;
}

/** The shares a part would have as it is cleaned, in their order. */
export function sharesOf(
  { stages }: Evaluation,
  { by, line }: Pick<Split, 'by' | 'line'>,
  timeline: Timeline,
): ShareOf[] {
  const labels = labelsOf(by, stages[stages.length - 1].notes, timeline, line);
  return sharesInOrder(by, labels).map((label) => ({
    label,
    notes: labels.filter((own) => own === label).length,
  }));
}

/**
 * A part as two hands play it: its notes, a byte a note (1 for the left hand's), and the line between them chord by
 * chord.
 */
export interface HandPicture {
  notes: Omit<LaidNotes, 'velocity'>;
  isLeft: Uint8Array;
  tick: Float64Array;
  pitch: Float64Array;
}

export function handPictureOf({ stages }: Evaluation, line: HandLine, timeline: Timeline): HandPicture {
  const { notes } = stages[stages.length - 1];
  const labels = labelsOf('hand', notes, timeline, line);
  return {
    notes: { start: notes.start.slice(), end: notes.end.slice(), pitch: notes.pitch.slice() },
    isLeft: Uint8Array.from(labels, (label) => (label === 'left' ? 1 : 0)),
    ...handLineOf(notes, timeline, line),
  };
}
