import type { Step } from '../steps';

/** What Ordle notices, in the order in which a note is found under one kind. */
export const FINDING_KINDS = [
  'double-strike',
  'stuck-note',
  'specks',
  'wrong-note',
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
  /** A step that mends it and nothing else; null where a person has to decide. */
  mend: Step | null;
}
