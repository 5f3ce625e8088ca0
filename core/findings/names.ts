import type { FindingKind } from './finding';

/** Kinds of findings as they are named on screen. */
export const FINDING_NAMES: Record<FindingKind, string> = {
  'double-strike': 'double note',
  'stuck-note': 'stuck note',
  specks: 'speck',
  'wrong-note': 'wrong note',
  'missing-note': 'missing note',
  'extra-note': 'extra note',
  overlap: 'overlap',
  'flattened-chord': 'flattened chords',
  'late-lead-in': 'silence before',
  'pedal-left-down': 'pedal left down',
  'stray-sysex': 'system exclusive message',
  'empty-track': 'empty part',
  'controller-flood': 'controller flood',
  'out-of-range': 'out of range',
  'beyond-end': 'beyond the end',
  'seam-jump': 'jump at a seam',
};
