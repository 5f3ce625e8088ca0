import type { Clef } from '../session';
import type { PlainValue } from './units';

/** Written notes of one part: bars, staves, voices. Places are units within the bar (`units.ts`). */
export interface WrittenPart {
  name: string;
  /** How many staves it has, 1 or 2. */
  staves: number;
  /** The clef of each staff. */
  clefs: readonly Clef[];
  isDrums: boolean;
  /** Semitones from what is written to what sounds. */
  transposition: number;
  bars: readonly WrittenBar[];
  /** What could not be written well, in order of time. */
  concerns: readonly Concern[];
  /** What every note of the part became, by its id. */
  placeOf: ReadonlyMap<number, WrittenPlace>;
}

/** Where a note of the part is written; `units` is how long it is written, over all ties. */
export interface WrittenPlace {
  bar: number;
  at: number;
  units: number;
  staff: number;
  voice: number;
  /** A grace note has no place of its own: that of the note it leads to. */
  isGrace: boolean;
}

export interface WrittenBar {
  /** Counted from 1. */
  number: number;
  units: number;
  numerator: number;
  denominator: number;
  /** The meter or the key is written here: they change, or it is the first bar. */
  showsMeter: boolean;
  showsKey: boolean;
  /** Sharps above 0, flats below; as written, after transposition. */
  fifths: number;
  mode: 'major' | 'minor';
  /** A pick-up or a bar that was cut short: it is not full by its meter. */
  isImplicit: boolean;
  directions: readonly Direction[];
  /** The voices of each staff; a staff has one at least, and each fills the bar. */
  staves: readonly (readonly WrittenVoice[])[];
}

/** What stands over or under the notes, at a place of the bar. */
export type Direction = { at: number; staff: number } & (
  | { what: 'tempo'; bpm: number }
  | { what: 'words'; words: string }
  | { what: 'rehearsal'; words: string }
  | { what: 'dynamic'; mark: string }
  | { what: 'hairpin'; is: 'crescendo' | 'diminuendo' | 'stop' }
  | { what: 'pedal'; is: 'start' | 'stop' }
  | { what: 'chord'; name: string }
);

export interface WrittenVoice {
  /** 1 or 2 on its staff. */
  number: number;
  items: readonly WrittenItem[];
}

/** A chord or a rest: one written value, perhaps tied to the next. */
export interface WrittenItem {
  at: number;
  units: number;
  value: PlainValue;
  /** So many in the time of so many; `starts` and `stops` say where the bracket does. */
  tuplet: { actual: number; normal: number; starts: boolean; stops: boolean } | null;
  /** Lowest first; none is a rest. */
  notes: readonly WrittenNote[];
  graces: readonly (readonly WrittenNote[])[];
  isStaccato: boolean;
  /** A chord that is rolled upwards. */
  isRolled: boolean;
  /** A rest that stands for the whole bar. */
  isWholeBar: boolean;
  /** What each beam does here, the first beam first. */
  beams: readonly Beam[];
}

export type Beam = 'begin' | 'continue' | 'end' | 'forward hook' | 'backward hook';

export interface WrittenNote {
  /** The note of the part, the pitch that sounds, and how loud it is (1-127). */
  id: number;
  pitch: number;
  velocity: number;
  /** As it is written: letter, alteration in semitones, octave (middle C is C4). */
  step: Letter;
  alter: number;
  octave: number;
  /** The sign that is shown before it. */
  accidental: Accidental | null;
  tiedFrom: boolean;
  tiedTo: boolean;
  /** What is sung to it; a syllable ends in a hyphen where its word goes on. */
  lyric?: string;
}

export type Letter = 'C' | 'D' | 'E' | 'F' | 'G' | 'A' | 'B';
export type Accidental = 'double-sharp' | 'sharp' | 'natural' | 'flat' | 'flat-flat';

/** Something of the part that notation cannot say, or says otherwise. */
export interface Concern {
  kind: 'shorter' | 'moved' | 'dropped';
  id: number;
  bar: number;
  /** How much is lost, or how far it was moved, in ms; 0 for dropped notes. */
  ms: number;
}
