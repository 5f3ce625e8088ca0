import type { NotationSettings } from '../session';

/** The same with everything said. */
export type NotationOptions = Required<NotationSettings>;

export const DEFAULT_NOTATION: NotationOptions = {
  staves: null,
  handLine: null,
  clef: null,
  transposition: 0,
  finest: 16,
  straightSwing: true,
  chordNames: false,
  finestIn: [],
  staffOf: {},
};

/** What stands in the session at a tick and is written over the notes. */
export interface Mark {
  tick: number;
  kind: 'rehearsal' | 'dynamic' | 'crescendo' | 'diminuendo' | 'hairpin-end' | 'pedal-down' | 'pedal-up';
  words?: string;
}
