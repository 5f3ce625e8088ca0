import { noteAt, rowsById, type Material, type Note, type NoteTable } from '../model';

/** A note at every stage, from as played to the last step; null where it is not there (not drawn yet, or removed). */
export function noteStory(stages: readonly Material[], id: number): (Note | null)[] {
  return stages.map(({ notes }) => {
    const row = notes.id.indexOf(id);
    return row < 0 ? null : noteAt(notes, row);
  });
}

/**
 * For each note of the stage at `stop`: its start as played (NaN when it was added), and a bit for each step that
 * changed it.
 */
export interface NoteOrigin {
  playedStart: Float64Array;
  /** Bit k is set when step k (from 0, the first 32) changed, added or moved the note. */
  touchedBy: Uint32Array;
}

export function originsAt(stages: readonly Material[], stop: number): NoteOrigin {
  const notes = stages[stop].notes;
  const playedStart = new Float64Array(notes.length).fill(NaN);
  const touchedBy = new Uint32Array(notes.length);
  let before = rowsById(stages[0].notes);
  for (let row = 0; row < notes.length; row++) {
    const played = before.rowOf(notes.id[row]);
    if (played >= 0) playedStart[row] = stages[0].notes.start[played];
  }
  for (let step = 0; step < Math.min(stop, 32); step++) {
    const [from, to] = [stages[step].notes, stages[step + 1].notes];
    if (from === to) continue;
    const after = rowsById(to);
    for (let row = 0; row < notes.length; row++) {
      const [was, is] = [before.rowOf(notes.id[row]), after.rowOf(notes.id[row])];
      if (is >= 0 && (was < 0 || !sameNote(from, was, to, is))) touchedBy[row] |= 1 << step;
    }
    before = after;
  }
  return { playedStart, touchedBy };
}

function sameNote(a: NoteTable, row: number, b: NoteTable, other: number): boolean {
  return (
    a.start[row] === b.start[other] &&
    a.end[row] === b.end[other] &&
    a.pitch[row] === b.pitch[other] &&
    a.velocity[row] === b.velocity[other] &&
    a.channel[row] === b.channel[other]
  );
}
