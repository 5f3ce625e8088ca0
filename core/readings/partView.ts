import type { ChangeReading, LatenessStrip, MoveReading, ValueReading } from '../analysis';
import type { LanePoints } from '../curves';

/** The notes of a stop as the editor paints them, in order of start. */
export interface ViewNotes {
  length: number;
  id: Float64Array;
  start: Float64Array;
  end: Float64Array;
  pitch: Uint8Array;
  velocity: Float64Array;
  /** Largest end of this row and all before it: where a search for what is visible may begin. */
  reach: Float64Array;
  /** 128 bytes: 1 for every pitch that occurs. */
  usedPitches: Uint8Array;
}

/** A lane of a part at a stop, in its own unit: 0-127, or cents of a bend. */
export interface LaneView {
  lane: string;
  /** 1-16. */
  channel: number;
  points: LanePoints;
  /** How it was at the stop before (at cleaned: as played); null where it is the same. */
  trace: LanePoints | null;
  low: number;
  high: number;
  /** The value before the first point. */
  resting: number;
  /** What other parts of the channel send in it, each as it is by itself. */
  others: OtherLane[];
}

/** What another part of the channel sends in a lane, in the lane's unit. */
export interface OtherLane {
  partId: string;
  name: string;
  ink: number;
  points: LanePoints;
}

/** Another part on a part's channel: the lanes it has points in, and where the two get in each other's way. */
export interface ChannelSharing {
  partId: string;
  name: string;
  lanes: { lane: string; points: number }[];
  /** Both choose a program, and not the same. */
  programs: [number, number] | null;
  /** Both move the sustain pedal. */
  pedals: boolean;
  /** Pairs of notes of one pitch, one of either, that sound at once. */
  overlaps: number;
}

/** A part as it is at one stop of its line. */
export interface PartView {
  partId: string;
  stop: number;
  notes: ViewNotes;
  /** Where the notes came from (the stop before, or as played): start and end by row of `notes`, NaN where new. */
  traceStart: Float64Array | null;
  traceEnd: Float64Array | null;
  /** Milliseconds each note is late against where it is meant to be; early below 0. */
  late: Float32Array;
  /**
   * Root mean square of the lateness at every stop, as played first: of each note against where the step that touched
   * it last means it to be, of others against the grid shown.
   */
  offMs: number[];
  /** The grids it is told against at this stop, in words, and as played. */
  measuredBy: string[];
  playedBy: string;
  /**
   * Lateness along the part against the grid in force here: as played, here, and the reach that fits what was played,
   * in ms.
   */
  strip: { before: LatenessStrip; after: LatenessStrip; reach: number };
  reading: MoveReading | null;
  /** What each step changed, by its place in the line; null as played, and where the step is off. */
  changes: (ChangeReading | null)[];
  /** Notes from different places that a step squeezed onto the start. */
  squeezed: number;
  /** Velocities or lengths before and after, at a step that changes them. */
  values: ValueReading | null;
  /**
   * At a curve step: points of its lane before and after, and how far any that went is from the line between those
   * kept.
   */
  curve: {
    before: number;
    after: number;
    largestError: number;
    /** The point that is farthest from what is left, as it was. */
    errorAt: { at: number; value: number } | null;
    unit: string;
  } | null;
  /**
   * At a step that listens to another part: the place there each note is pulled toward, in ticks; NaN where there is
   * none.
   */
  pulledTo: Float64Array | null;
  endTick: number;
  /** Tick to which the pedal holds each note, its own end where it holds none; null where the part has no pedal. */
  rings: Float64Array | null;
  /** Channel of each note, 0-15. */
  channel: Uint8Array;
  /**
   * Start as played, NaN where the note was added by hand; and a bit for each step that changed it. With `details`
   * only.
   */
  playedStart: Float64Array | null;
  touchedBy: Uint32Array | null;
  /** The lanes asked for, and all that hold points with how many. */
  lanes: LaneView[];
  lanesThere: { lane: string; points: number }[];
  /** What shares the part's channel, and how it gets on with it. */
  sharing: ChannelSharing[];
  /** Notes left out as doubles where the part was put together, where they lay; null where none were. */
  dropped: { start: Float64Array; end: Float64Array; pitch: Uint8Array } | null;
  /** Hand edits of the current stop that no longer find their note. */
  lostEdits: number[];
}
