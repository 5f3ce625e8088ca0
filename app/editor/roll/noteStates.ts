import type { ViewNotes } from '@ordle/core';
import { selectedRows } from '@/state/selection';
import type { Scene } from './scene';

/** Which rows of the view are marked, and how. */
export type NoteStates = Pick<Scene, 'selected' | 'focused' | 'selectionSpan' | 'litStep' | 'lit'>;

/**
 * Keeps which notes are selected and which are lit, by id, and tells the rows of the view they are: worked out once
 * when the view or the selection changes, so that painting and hit testing only look them up.
 */
export function createNoteStates() {
  let selectedIds: ReadonlySet<number> = new Set();
  let focus: number | null = null;
  let litIds: ReadonlySet<number> = new Set();
  let states: NoteStates = {
    selected: new Uint8Array(0),
    focused: -1,
    selectionSpan: null,
    litStep: null,
    lit: null,
  };

  function findSelected(notes: ViewNotes | null) {
    const selected = notes ? selectedRows(notes.id, selectedIds) : new Uint8Array(0);
    let [from, to, count] = [Infinity, 0, 0];
    for (let row = 0; notes && selectedIds.size > 0 && row < notes.length; row++) {
      if (selected[row] === 0) continue;
      from = Math.min(from, notes.start[row]);
      to = Math.max(to, notes.end[row]);
      count++;
    }
    const focused = notes && focus !== null ? notes.id.lastIndexOf(focus) : -1;
    states = { ...states, selected, focused, selectionSpan: count > 1 ? { from, to } : null };
  }

  function findLit(notes: ViewNotes | null) {
    const lit = notes && litIds.size > 0 ? Uint8Array.from(notes.id, (id) => (litIds.has(id) ? 1 : 0)) : null;
    states = { ...states, lit };
  }

  return {
    now: (): NoteStates => states,
    /** The view shows other notes. */
    read(notes: ViewNotes | null) {
      findSelected(notes);
      findLit(notes);
    },
    select(ids: ReadonlySet<number>, standsOn: number | null, notes: ViewNotes | null) {
      selectedIds = ids;
      focus = standsOn;
      findSelected(notes);
    },
    /** Lights the notes a step touches; null puts the light out. */
    light(stepId: string | null, ids: ReadonlySet<number>, notes: ViewNotes | null) {
      litIds = ids;
      states = { ...states, litStep: stepId };
      findLit(notes);
    },
  };
}
