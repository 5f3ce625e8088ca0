import type {
  Finding,
  Reference,
  ScoreReadings,
  Block,
  BroughtParts,
  Independence,
  ChartBin,
  CurveEdit,
  EditColumns,
  EditTable,
  FoundBeats,
  ExportChoice,
  MidiOptions,
  PartsChoice,
  Sounding,
  HandLine,
  LaneClip,
  Marker,
  LatenessStrip,
  FilesTogether,
  LieWithSteps,
  Note,
  NoteValue,
  Part,
  PartContent,
  PartFacts,
  PlaybackPart,
  PulseHints,
  Session,
  Split,
  SaidOfBeats,
  SessionPlan,
  SessionSuggestion,
  Step,
  StoredTake,
  TakeContent,
  TakenGroove,
  TakeReference,
  Where,
  harmonyOfParts,
  ReadingsOfParts,
  PlayedBeats,
  ComparisonView,
  Counterpart,
  HandPicture,
  PartRow,
  ShareOf,
  PartView,
  AssembledView,
  TakeRow,
} from '@ordle/core';
import type {
  DraftOfPart,
  PartQuestion,
  PartViewRequest,
  StopQuestion,
  QuestionRequest,
  AlongRequest,
  ClipsRequest,
  LayRequest,
  StretchRequest,
  ChartQuestion,
  GrooveRequest,
  Imported,
  GivenFile,
  BroughtTakes,
  Gathered,
  Joined,
  Folded,
  WaitingPart,
  CheckedExport,
  PlannedExport,
  WrittenExport,
  PlaybackRequest,
  ScoreRequest,
  ScoreOfParts,
  PlayedScore,
  GivenScore,
} from './shapes';

export type * from './shapes';

/** The work done off the main thread: it holds the takes and a copy of the document, and evaluates parts. */
export interface Engine extends DocumentQuestions {
  /** Takes that could not be stored, for an engine that was started anew. */
  adopt(takes: StoredTake[]): Promise<void>;
  /** Hand edits of many notes, which the document names from now on. */
  adoptTables(tables: EditTable[]): Promise<void>;
  /** The key of hand edits just made, which are adopted under it: to work it out here would cost the page a frame. */
  nameColumns(columns: EditColumns): Promise<string>;
  /**
   * How late and early a session that is not the open one is along its length; null where it has no notes or very
   * many.
   */
  timingPicture(session: Session): Promise<LatenessStrip | null>;
  /** Makes a take of what was recorded and stores it; `unkept` as on import. */
  sealTake(content: TakeContent): Promise<{ reference: TakeReference; unkept: StoredTake[] }>;
  /** Makes a session of a file; `keepsIdentity`: one of a session file stays the very session it was. */
  importFile(name: string, bytes: Uint8Array, keepsIdentity?: boolean): Promise<Imported>;
  /** A session that need not be the open one, with its history, as the bytes of a session file. */
  packSession(session: Session, history?: unknown): Promise<Uint8Array>;
  /** What several files seem to be, by what is in them. */
  filesTogether(files: GivenFile[]): Promise<FilesTogether>;
  /** One session of several files: takes of each part of the first, or parts of one piece. */
  gather(request: {
    name: string;
    files: GivenFile[];
    as: 'takes' | 'parts';
    isLinedUp: boolean;
  }): Promise<Gathered>;
  buildPlan(plan: SessionPlan, files: [string, Uint8Array][]): Promise<Imported>;
  /** Stops what is being written, where something is. */
  stopExport(): Promise<void>;
}

/** What is asked of a document. Each takes one object that names it. */
export interface DocumentQuestions {
  joinFile(request: { session: Session; bytes: Uint8Array }): Promise<Joined>;
  viewPart(request: PartViewRequest): Promise<PartView>;
  /** How far each part with notes is off the grid as it is cleaned, in ms, by its id. */
  offTheGrid(request: { session: Session; grid: NoteValue }): Promise<Record<string, number>>;
  /** The takes of a part one by one, and what its layers come to, read against a grid. */
  takeRows(request: PartQuestion & { grid: NoteValue }): Promise<TakeRow[]>;
  assembledView(request: PartQuestion & { grid: NoteValue }): Promise<AssembledView>;
  /** What a part that is not in the session yet would be: how many notes, doubles left out, lanes not agreed about. */
  draftOfPart(request: { session: Session; part: Part }): Promise<DraftOfPart>;
  /** A performance in real time with its beats, by what a person said of them. */
  foundBeats(request: PartQuestion): Promise<PlayedBeats>;
  /**
   * Where the first note of each part starts as it is cleaned (null without notes), and where the part ends, in
   * ticks.
   */
  spans(request: { session: Session }): Promise<Record<string, { first: number | null; end: number }>>;
  /** Every part that is not set aside measured as played and as cleaned, and what is probably wrong with them. */
  readings(request: { session: Session; grid: NoteValue; where: Where }): Promise<ReadingsOfParts>;
  /** What would clean the session up; `said` is what is tried of the beats of recordings, by the part that keeps it. */
  suggestion(request: { session: Session; said: SaidOfBeats }): Promise<SessionSuggestion>;
  /** How a part would lie with some steps more, under the beats of its recording where there are some. */
  lieWithSteps(
    request: PartQuestion & { steps: Step[]; found: FoundBeats | null },
  ): Promise<LieWithSteps | null>;
  /** A part as it is cleaned beside another, or one of its takes, note by note. */
  comparison(request: PartQuestion & { counterpart: Counterpart }): Promise<ComparisonView>;
  /** Chords and keys along the bars, of one part or (null) of all pitched parts together, as they are cleaned. */
  harmony(request: { session: Session; partId: string | null }): Promise<ReturnType<typeof harmonyOfParts>>;
  /** Parts as they are cleaned as notation; what could not be written well with it. */
  score(request: ScoreRequest & { barsAStrip: number }): Promise<ScoreOfParts>;
  /** The score that is laid beside a part, in the order it was played; null where there is none. */
  playedScore(
    request: PartQuestion & { version: 'cleaned' | 'played'; barsAStrip: number },
  ): Promise<PlayedScore | null>;
  /** A part beside its score in figures, with what is wrong with it as it was played; null where there is no score. */
  scoreReadings(request: PartQuestion): Promise<(ScoreReadings & { faults: Finding[] }) | null>;
  /** The beats of a performance as the score beside it tells them, in the place of what was said of them. */
  beatsByScore(request: PartQuestion): Promise<PulseHints>;
  /** Finds a score in what was played by some parts (by id, a line each), and stores it; `unkept` as on import. */
  layScore(request: {
    session: Session;
    parts: string;
    given: GivenScore;
  }): Promise<{ reference: Reference; unkept: StoredTake[] }>;
  /** The same as the bytes of a MusicXML file, plain or compressed. */
  musicXml(request: ScoreRequest & { isCompressed: boolean }): Promise<Uint8Array>;
  /** One chart of a part as played and as cleaned, and the ids of the notes in one of its bins. */
  chart(request: ChartQuestion): Promise<ChartBin[]>;
  chartNotes(
    request: ChartQuestion & { side: 'before' | 'after'; bin: number },
  ): Promise<{ ids: Float64Array; tick: number }>;
  /** The markers of the session: as they were left, else as its files have them. */
  markers(request: { session: Session }): Promise<Marker[]>;
  /** Every part along the bars as it is cleaned. */
  partRows(request: { session: Session }): Promise<PartRow[]>;
  /**
   * Blocks of a part made independent of what is cleaned before its layout; null where no other block would be left.
   */
  independent(request: PartQuestion & { blocks: Block[]; ids: string[] }): Promise<Independence | null>;
  /** What a part would be divided into by a rule. */
  sharesOf(request: PartQuestion & Pick<Split, 'by' | 'line'>): Promise<ShareOf[]>;
  /** A part with the line between its hands. */
  handPicture(request: PartQuestion & { line: HandLine }): Promise<HandPicture>;
  /**
   * The performances of files as takes of a part: those of its channel or name, or else all that hold notes; lined up
   * with its first take where that is wanted.
   */
  takesOfFiles(request: PartQuestion & { files: GivenFile[]; isLinedUp: boolean }): Promise<BroughtTakes>;
  /** What is heard of each part asked for, and which of them are not since they cannot be worked out. */
  playback(request: PlaybackRequest): Promise<{ parts: PlaybackPart[]; waiting: WaitingPart[] }>;
  /** Ids of the notes a question picks. */
  pickNotes(request: QuestionRequest): Promise<Float64Array>;
  /** Ids of the notes a step may act on, as they stand before it. */
  touchedNotes(request: PartQuestion & { stepId: string }): Promise<Float64Array>;
  /** What can be read from the notes of a part at a stop before any setting is chosen. */
  factsOf(request: StopQuestion): Promise<PartFacts>;
  /** A note at every stop, as played first; null where it is not there. */
  noteStory(request: PartQuestion & { id: number }): Promise<(Note | null)[]>;
  takeGroove(request: GrooveRequest): Promise<TakenGroove>;
  /** Edits of lanes that take the controllers of notes along. */
  alongEdits(request: AlongRequest): Promise<CurveEdit[]>;
  /** The controllers of some notes for the clipboard, and edits that lay them down elsewhere. */
  clipsOf(request: ClipsRequest): Promise<LaneClip[]>;
  layClips(request: LayRequest): Promise<CurveEdit[]>;
  /** The lanes that hold points from one tick up to another, with how many. */
  lanesBetween(request: StretchRequest): Promise<{ lane: string; points: number }[]>;
  /** Edits that leave nothing of some lanes from one tick up to another. */
  clearLanes(request: StretchRequest & { lanes: string[] }): Promise<CurveEdit[]>;
  /** Makes the first `count` steps of a part permanent; `unkept` as on import. */
  fold(request: PartQuestion & { count: number }): Promise<Folded>;
  /** Takes the last making permanent of a part back. */
  unfold(request: PartQuestion): Promise<{ part: Part; tables: EditTable[] }>;
  /**
   * Parts of another session as they are to be put into this one, with the hand edits of many notes that were made
   * anew.
   */
  bringParts(request: {
    session: Session;
    from: Session;
    ids: string[];
  }): Promise<BroughtParts & { tables: EditTable[] }>;
  /** What every part holds, by its id. */
  contents(request: { session: Session }): Promise<Record<string, PartContent>>;
  /** What there is to know before a file is written, and what cannot be. */
  checkExport(request: {
    session: Session;
    choice: PartsChoice;
    options: MidiOptions;
  }): Promise<CheckedExport>;
  /** What will be written, by its names. */
  planExport(request: { session: Session; choice: ExportChoice }): Promise<PlannedExport>;
  /** What there is to know of each chosen format before it is written; it may take a while. */
  checkFormats(request: {
    session: Session;
    choice: ExportChoice;
  }): Promise<{ format: string; sentences: string[] }[]>;
  /** What is chosen as it sounds; of sections or blocks the one at a place, from 0, with its name. */
  exportSound(request: {
    session: Session;
    choice: ExportChoice;
    at: number;
  }): Promise<Sounding & { name: string; count: number }>;
  /** Writes it, telling how far it is. Fails with `cancelled` when it is stopped or another is begun. */
  writeExport(request: { session: Session; choice: ExportChoice; history?: unknown }): Promise<WrittenExport>;
}
