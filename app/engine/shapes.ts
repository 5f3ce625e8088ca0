/** What questions to the engine are about, and the shapes of its answers. */
import type {
  Finding,
  ScorePage,
  Concern,
  ScoreStrip,
  ChartKind,
  ContestedLane,
  OtherTempo,
  AlongAction,
  EditTable,
  ExportCheck,
  LaneClip,
  LookedAt,
  NoteValue,
  Part,
  Question,
  Repair,
  Session,
  TakesOfFiles,
  StoredTake,
  TakeReference,
  Where,
} from '@ordle/core';

/** What a part that is not in the session yet would be. */
export interface DraftOfPart {
  notes: number;
  /** Doubles that are left out of it. */
  dropped: number;
  contested: ContestedLane[];
}

/**
 * What a question is about: a part of the document as it was when it was asked. Only what changed of the document
 * since goes to the engine.
 */
export interface PartQuestion {
  session: Session;
  partId: string;
}

export type PartViewRequest = PartQuestion & LookedAt;

/** A question about a part at a stop. */
export interface StopQuestion extends PartQuestion {
  stop: number;
}

/** Asks for the notes a question picks at a stop. */
export interface QuestionRequest extends StopQuestion {
  grid: NoteValue;
  question: Question;
}

/** Asks what becomes of the controllers of some notes, at a stop, when something is done to the notes. */
export interface AlongRequest extends StopQuestion {
  ids: number[];
  action: AlongAction;
}

/** Asks for the controllers of some notes, or to lay such down at a tick, at a stop. */
export interface ClipsRequest extends StopQuestion {
  ids: number[];
}
export interface LayRequest extends StopQuestion {
  clips: LaneClip[];
  at: number;
}

/** Asks about a stretch of time, from one tick up to another, at a stop. */
export interface StretchRequest extends StopQuestion {
  from: number;
  to: number;
}

/** Asks for a chart of a part, of the notes `where` picks, against its grid or the one shown. */
export interface ChartQuestion extends PartQuestion {
  kind: ChartKind;
  grid: NoteValue;
  where: Where;
}

/** Asks for the groove of a part as it is cleaned, or of some of its notes, at a grid over a cycle of quarters. */
export interface GrooveRequest extends PartQuestion {
  grid: NoteValue;
  beats: number;
  /** Ids of the notes to take it of; null for all. */
  ids: number[] | null;
}

/** What came out of a file. `unkept` are the takes the browser would not store: they live only in this tab. */
export interface Imported {
  session: Session;
  repairs: Repair[];
  /** Large hand edits that came with a session file, to be stored with it. */
  tables: EditTable[];
  unkept: StoredTake[];
  /** What was done and undone, where a session file tells it; not looked into yet. */
  history?: unknown;
}

/** A file as it came. */
export interface GivenFile {
  name: string;
  bytes: Uint8Array;
}

/** A file that could not be read, and in a sentence why. */
export interface FailedFile {
  name: string;
  why: string;
}

/** A part with what files brought it as takes; `unkept` as on import. */
export interface BroughtTakes extends Omit<TakesOfFiles, 'takes'> {
  failed: FailedFile[];
  unkept: StoredTake[];
}

/** One session of several files. */
export interface Gathered extends Imported {
  failed: FailedFile[];
  /** Files that hold no notes and brought nothing. */
  silent: string[];
}

export interface Joined {
  references: TakeReference[];
  parts: Part[];
  repairs: Repair[];
  otherTempo: OtherTempo | null;
  unkept: StoredTake[];
}

/** A part whose steps were made permanent, and the take they became. */
export interface Folded {
  /** Hand edits of many notes that were made anew, to be stored with the document. */
  tables: EditTable[];
  part: Part;
  reference: TakeReference;
  unkept: StoredTake[];
}

/** A part that cannot be worked out, and in a sentence why: what it is made of is gone. */
export interface WaitingPart {
  partId: string;
  why: string;
}

export type CheckedExport = ExportCheck & { waiting: WaitingPart[] };

/** What will be written, by name, and what each format cannot hold. */
export interface PlannedExport {
  /** The name of the one file, or of the zip. */
  name: string;
  isZip: boolean;
  files: { name: string; format: string; words: string }[];
  leftOut: { format: string; sentences: string[] }[];
  /** Where the last note of the chosen parts ends, in ticks. */
  endTick: number;
}

/** What was written: the one file, or the zip. */
export interface WrittenExport {
  name: string;
  bytes: number;
  files: number;
  content: Blob;
  /** What there is to know of it, in sentences. */
  told: string[];
}

export interface PlaybackRequest {
  session: Session;
  /** Part id -> stop to hear it at; parts not named are heard cleaned. */
  stops: Record<string, number>;
  /** 0 as played, 1 cleaned. */
  blend: number;
  partIds: string[];
}

/** Which parts are written, by their ids with a line each, and which bars: from `from` up to, without, `to`. */
export interface ScoreRequest {
  session: Session;
  parts: string;
  from: number;
  to: number;
}

/** A score in strips, which parts are in it, and what of them is written otherwise than it sounds. */
export interface ScoreOfParts {
  strips: ScoreStrip[];
  /** How many bars the parts have in all. */
  bars: number;
  /** Ids, as they stand in the score from top to bottom. */
  partIds: string[];
  concerns: (Concern & {
    partId: string;
    name: string;
    tick: number;
    /** The staff it stands on where there are two, 0 the upper one. */
    staff: 0 | 1 | null;
  })[];
}

/** The score beside a part, in strips, with the playing on it. */
export interface PlayedScore extends Omit<ScorePage, 'written'> {
  strips: ScoreStrip[];
  /** What is wrong, missing and extra in the parts as they are cleaned, in order of time. */
  faults: (Finding & { partId: string })[];
}

/** What is laid beside parts: a file, or another part of the session as it is cleaned. */
export type GivenScore = { file: GivenFile } | { part: string };
