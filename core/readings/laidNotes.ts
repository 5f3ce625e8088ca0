import type { NoteTable } from '../model';

/** Notes as pictures of many paint them: where they lie in the session, in ticks. */
export interface LaidNotes {
  start: Float64Array;
  end: Float64Array;
  pitch: Uint8Array;
  velocity: Float64Array;
}

export const NO_LAID_NOTES: LaidNotes = {
  start: new Float64Array(0),
  end: new Float64Array(0),
  pitch: new Uint8Array(0),
  velocity: new Float64Array(0),
};

export const laidNotes = ({ start, end, pitch, velocity }: NoteTable): LaidNotes => ({
  start,
  end,
  pitch,
  velocity,
});
