import type { NoteTable } from '../model';
import { createStep } from '../steps';
import { ticksToSeconds, type TempoMap } from '../time';

/** Notes as they are looked through, one kind of fault after the other. */
export interface Look {
  notes: NoteTable;
  /** Seconds. */
  start: Float64Array;
  end: Float64Array;
  /** 1 for a note that was found under a kind already. */
  taken: Uint8Array;
  /** General MIDI program, 0-127. */
  program: number;
}

export const lookAt = (notes: NoteTable, program: number, tempo: TempoMap): Look => ({
  notes,
  start: notes.start.map((tick) => ticksToSeconds(tempo, tick)),
  end: notes.end.map((tick) => ticksToSeconds(tempo, tick)),
  taken: new Uint8Array(notes.length),
  program,
});

/** The step that deletes a note and nothing else. */
export const deleting = (id: number) => createStep('edits', { delete: [id] });
export const inMs = (seconds: number) => `${Math.round(seconds * 1000)} ms`;
