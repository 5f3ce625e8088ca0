import type { ViewNotes } from '@/engine/protocol';
import type { Scene } from './scene';

/** Which rows of the view are marked, and how. */
export type Marks = Pick<Scene, 'selected' | 'focused' | 'selectionSpan' | 'litStep' | 'lit'>;

/**
 * Keeps which notes are selected and which are lit, by id, and tells the rows of the view they are: worked out once when the view or the
 * selection changes, so that painting and hit testing only look them up.
 */
export function createMarks() {
  let selectedIds: ReadonlySet<number> = new Set();
  let focus: number | null = null;
  let litIds: ReadonlySet<number> = new Set();
  let marks: Marks = {
    selected: new Uint8Array(0),
    focused: -1,
    selectionSpan: null,
    litStep: null,
    lit: null,
  };

  function markSelected(notes: ViewNotes | null) {
    const selected = new Uint8Array(notes?.length ?? 0);
    let focused = -1;
    let [from, to, count] = [Infinity, 0, 0];
    for (let row = 0; notes && row < notes.length && (selectedIds.size > 0 || focus !== null); row++) {
      const id = notes.id[row];
      if (selectedIds.has(id)) {
        selected[row] = 1;
        from = Math.min(from, notes.start[row]);
        to = Math.max(to, notes.end[row]);
        count++;
      }
      if (id === focus) focused = row;
    }
    marks = { ...marks, selected, focused, selectionSpan: count > 1 ? { from, to } : null };
  }

  function markLit(notes: ViewNotes | null) {
    const lit = notes && litIds.size > 0 ? Uint8Array.from(notes.id, (id) => (litIds.has(id) ? 1 : 0)) : null;
    marks = { ...marks, lit };
  }

  return {
    now: (): Marks => marks,
    /** The view shows other notes. */
    read(notes: ViewNotes | null) {
      markSelected(notes);
      markLit(notes);
    },
    select(ids: ReadonlySet<number>, standsOn: number | null, notes: ViewNotes | null) {
      selectedIds = ids;
      focus = standsOn;
      markSelected(notes);
    },
    /** Lights the notes a step touches; null puts the light out. */
    light(stepId: string | null, ids: ReadonlySet<number>, notes: ViewNotes | null) {
      litIds = ids;
      marks = { ...marks, litStep: stepId };
      markLit(notes);
    },
  };
}
