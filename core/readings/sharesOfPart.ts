import { handLineOf, labelsOf, sharesInOrder } from '../assembly';
import type { Evaluation } from '../evaluate';
import type { HandLine, Split } from '../session';
import type { Timeline } from '../time';
import type { LaidNotes } from './laidNotes';

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
