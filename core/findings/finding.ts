import type { Step } from '../steps';

/** What Ordle notices, in the order in which a note is found under one kind. */
export const FINDING_KINDS = [
  'double-strike',
  'stuck-note',
  'specks',
  'wrong-note',
  'missing-note',
  'extra-note',
  'overlap',
  'flattened-chord',
  'late-lead-in',
  'pedal-left-down',
  'stray-sysex',
  'empty-track',
  'controller-flood',
  'out-of-range',
  'beyond-end',
  'seam-jump',
] as const;
export type FindingKind = (typeof FINDING_KINDS)[number];

/** Something that is probably wrong: where it is, why it is thought so, and what would put it right. */
export interface Finding {
  kind: FindingKind;
  /** A place in the part, in ticks. */
  tick: number;
  /** Ids of the notes it is about; none where it is about something else. */
  notes: number[];
  reason: string;
  /** How sure it is that this is a fault, 0 to 1. */
  sure: number;
  /** A step that mends it and nothing else; null where a person has to decide. */
  mend: Step | null;
}

/** From here on a fault is certain enough to be mended with others, unseen. */
const CERTAIN = 0.75;

/** Whether a finding is mended with all others: one that is only likely is left to a person. */
export const isCertain = ({ sure }: Pick<Finding, 'sure'>): boolean => sure >= CERTAIN;
