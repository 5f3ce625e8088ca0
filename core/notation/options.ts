import type { Clef } from './written';

/** How a part is written down; none of it changes the part. */
export interface NotationOptions {
  /** On one staff or two; null: two where the notes reach over what one staff holds. */
  staves: 1 | 2 | null;
  /** Pitches from here up are the right hand's, on two staves; null: as hands play. */
  handLine: number | null;
  /** The clef of a part on one staff; null: by its pitches. */
  clef: Clef | null;
  /** Semitones from what is written to what sounds: -2 for an instrument in B flat. */
  transposition: number;
  /** The shortest plain value, in parts of a whole note: 16 for 1/16. */
  finest: 4 | 8 | 16 | 32 | 64;
  /** Played swing is written in plain values, with a word for it; else as triplets. */
  straightSwing: boolean;
  chordNames: boolean;
}

export const DEFAULT_NOTATION: NotationOptions = {
  staves: null,
  handLine: null,
  clef: null,
  transposition: 0,
  finest: 16,
  straightSwing: true,
  chordNames: false,
};

/** What stands in the session at a tick and is written over the notes. */
export interface Mark {
  tick: number;
  kind: 'rehearsal' | 'dynamic' | 'crescendo' | 'diminuendo' | 'hairpin-end' | 'pedal-down' | 'pedal-up';
  words?: string;
}
