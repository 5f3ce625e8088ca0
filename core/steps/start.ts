/** What the settings of a new step depend on of the part it is for. */
export interface StartingPoint {
  facts: {
    grid: string;
    swing: number;
    /** How many of the notes stand in chords, 0-1. */
    chordShare: number;
    biasMs: number;
    shortestMs: number;
    lanes: readonly string[];
    /** Where the part ends, in quarters. */
    endQuarters: number;
  };
  isDrums: boolean;
  /** Part to align to, by id; empty where there is no other. */
  alignTo: string;
  /** Whether other parts get the step too. */
  isOneOfSeveral: boolean;
  /** Whether the step is for all of the part. */
  isForAll: boolean;
}
