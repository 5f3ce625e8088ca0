import type { z } from 'zod';
import type { Material, NoteTable } from '../model';
import type { NoteValue, Timeline } from '../time';
import type { EditColumns, EditTable } from './editTable';
import type { Placing } from './placing';
import type { WrittenBeside } from './score';
import type { StartingPoint } from './start';
import type { Where } from './where';

/** What a step may know of its surroundings. */
export interface StepContext {
  timeline: Timeline;
  isDrums: boolean;
  /**
   * The channel (0-15) of the part where its events hold those of others too; without it all of its channels are
   * meant.
   */
  channel?: number;
  /** The other parts on the part's channels, each as its own steps shape it. */
  beside?: () => readonly Material[];
  /** Hand edits of many notes, by the key of their content. */
  editTable?: (key: string) => EditTable | undefined;
  /** What chance is drawn by for a note, by its id; without it the id itself. */
  drawnBy?: (id: number) => number;
  /** The cleaned notes of another part, by id or name; null where there is none, or it is the part itself. */
  otherPart?: (idOrName: string) => NoteTable | null;
  /** What is written of the part, where a score is laid beside it. */
  written?: () => WrittenBeside | null;
}

/**
 * What can be read of the other parts on a channel: the state their events make; the same as if no step of theirs had
 * taken presses of a pedal out; when their notes are played.
 */
export type OfChannel = 'events' | 'presses' | 'notes';

/** What a step works on, in the order of the work. */
export const WORKS = ['time', 'feel', 'pitch', 'loudness', 'length', 'controllers', 'tidy'] as const;
export type Work = (typeof WORKS)[number];

/** The settings every step shares. */
export interface StepCommon {
  kind: string;
  on: boolean;
  where: Where;
}

/**
 * Notes of one set of ids said by another, and where the columns of many edits are found and put under a key of their
 * own.
 */
export interface NewIds {
  /** The id a note has now; the same for a note nothing is known of. */
  of(id: number): number;
  table?(key: string): EditTable | undefined;
  /** Puts columns under their key, and gives it. Without it edits of many notes are said one by one. */
  named?(columns: EditColumns): string;
}

/** For kinds that say nothing of places in time beside their where. */
export const saysNoTicks = <S>(step: S): S => step;
/** For kinds that speak of no note by its id beside their where. */
export const namesNoNotes = <S>(step: S): S => step;

/** What the one large figure of a step tells. */
export type StepMeasure =
  'grid' | 'lateness' | 'evenness' | 'length' | 'points' | 'presses' | 'pitches' | 'removed' | 'notes';

/**
 * One kind of clean-up. `apply` is pure: it never writes into its input, may share columns with it, and returns the
 * very same material when nothing changes. `touched` has a byte a note: 1 where the step may act.
 */
export interface StepKind<S extends StepCommon> {
  kind: S['kind'];
  /** The name on the line of steps. */
  title: string;
  /** What of the work it belongs to; menus go in this order. */
  work: Work;
  schema: z.ZodType<S>;
  apply(material: Material, step: S, context: StepContext, touched: Uint8Array): Material;
  /**
   * The step with everything it says in ticks, quarters or bars said of where that lies now. Its where is moved for
   * all kinds alike (`placedStep`). No other code moves what a step says; every kind has to answer.
   */
  mapTicks(step: S, placing: Placing): S;
  /** The step with every note it names named by the id it has now; its where as above (`renamedStep`). */
  mapIds(step: S, ids: NewIds): S;
  /** The settings a new one starts with, where those are not the defaults; a person goes on from there. */
  start?(point: StartingPoint): Partial<S>;
  /**
   * What becomes of the ids of notes in it, where it gives notes identities made of others: each new one by how it
   * was made.
   */
  idsMade?(step: S, id: number): number[];
  /** What it does, in a few words for a menu. */
  hint: string;
  /** The settings in a few words. */
  describe(step: S): string;
  /** Whether it moves notes in time, so that it is told how far and what is left. */
  movesTime?: boolean;
  /**
   * The one figure it is told by, which it is meant to change: the distance from the grid (also where none is said),
   * how late notes are on average, how uneven their velocities are, how long they are, or how many points, presses,
   * notes of another pitch, notes removed or notes that are in any way others it leaves.
   */
  measure?(step: S): StepMeasure;
  /** Whether it always touches the whole part, so that it has no where. */
  partWide?: boolean;
  /** Whether it says what a hand did to single notes, so that it is of its part alone and has no where to choose. */
  byHand?: boolean;
  /** Whether a part has at most one of it. */
  oncePerPart?: boolean;
  /** Whether it says where stretches of the part lie along the bars, which controllers without notes follow. */
  laysOut?: boolean;
  /** Whether it brings what was played to the bars, so that all that is said after it lies by them. */
  putsOnGrid?: boolean;
  /** Whether it goes by the score that is laid beside the part. */
  followsScore?: boolean;
  /** What the step reads of the other parts on its channel; nothing where it looks at its own alone. */
  readsChannel?(step: S): readonly OfChannel[];
  /** Whether it takes presses of a pedal out; what others on the channel read as `presses` has them all the same. */
  takesPressesOut?(step: S): boolean;
  /** The lines it pulls notes toward, by which lateness is told from it on. */
  grid?(step: S): { grids: NoteValue[]; swing: number };
  /** The step at full strength, which puts each start where it means it; null where it leaves the starts alone. */
  wholly?(step: S): S | null;
  /** What it changes of notes that a reading before and after tells: their velocities, or their lengths in ms. */
  values?(step: S): 'velocity' | 'ms' | null;
  /** The lanes it shapes: those it reads and those it writes. */
  lanes?(step: S): string[];
  /** Notes it speaks of by id that are not in the table it is given: what it says of them does nothing. */
  lostIds?(step: S, notes: NoteTable, tableOf?: StepContext['editTable']): number[];
  /**
   * For each note, by row of `notes`, the place in the other part it is pulled toward, in ticks; NaN where there is
   * none.
   */
  targets?(step: S, notes: NoteTable, other: NoteTable, timeline: Timeline): Float64Array;
  /** Id or name of the other part the step listens to, for kinds that do; and the step listening to another. */
  reference?(step: S): string;
  withReference?(step: S, idOrName: string): S;
  /** The ids of the notes it draws itself. */
  idsDrawn?(step: S): number[];
  /** The key of the columns in which it keeps what it says of many notes. */
  table?(step: S): string | undefined;
}
