import { rowsNamed } from '@ordle/core';
import { createSmallStore } from '@/ui/smallStore';

/**
 * The selected notes, by id, of one part. Kept beside the document: selecting is not an action to undo, and there may
 * be 100,000.
 */
export interface Selection {
  partId: string | null;
  ids: ReadonlySet<number>;
  /** The note the keyboard stands on. */
  focus: number | null;
}

const NONE: Selection = { partId: null, ids: new Set(), focus: null };
const store = createSmallStore(NONE);
const { set } = store;

/** The session whose notes are selected. */
let entered: string | null = null;

export const selectionStore = {
  /** Says which session is worked on: another one begins with nothing selected. */
  enter(sessionId: string) {
    if (entered !== null && entered !== sessionId) set(NONE);
    entered = sessionId;
  },
  get: store.get,
  subscribe: store.subscribe,
  /** Selects exactly these notes. */
  select(partId: string, ids: Iterable<number>, focus: number | null = null) {
    const selected = new Set(ids);
    set({ partId, ids: selected, focus: focus ?? (selected.size === 1 ? [...selected][0] : null) });
  },
  /** Adds notes, or takes them out when `toggle` and all are in already. */
  add(partId: string, ids: readonly number[], toggle = false) {
    const { partId: of, ids: selectedNow } = store.get();
    const before = of === partId ? selectedNow : new Set<number>();
    const selected = new Set(before);
    const out = toggle && ids.every((id) => before.has(id));
    for (const id of ids) {
      if (out) selected.delete(id);
      else selected.add(id);
    }
    set({ partId, ids: selected, focus: ids.at(-1) ?? null });
  },
  clear: () => set(NONE),
};

const rowsByIds = new WeakMap<Float64Array, { ids: ReadonlySet<number>; rows: Uint8Array }>();
let latest: { id: Float64Array; ids: ReadonlySet<number>; rows: Uint8Array } | null = null;

/** A byte a row of some notes, by their ids: 1 for those selected. Worked out once for all that ask. */
export function selectedRows(id: Float64Array, ids: ReadonlySet<number>): Uint8Array {
  const known = rowsByIds.get(id);
  if (known?.ids === ids) return known.rows;
  // After an edit the notes mostly stand in the rows where they stood: comparing them is far cheaper than looking
  // each up.
  const rows = latest?.ids === ids && isSame(latest.id, id) ? latest.rows : rowsNamed(id, ids);
  rowsByIds.set(id, { ids, rows });
  latest = { id, ids, rows };
  return rows;
}

function isSame(one: Float64Array, other: Float64Array): boolean {
  if (one.length !== other.length) return false;
  for (let row = 0; row < one.length; row++) if (one[row] !== other[row]) return false;
  return true;
}

export const useSelection = store.useValue;
