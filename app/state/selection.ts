import { rowsNamed } from '@ordle/core';
import { createSmallStore } from '@/ui/smallStore';

/**
 * The selected notes, by part and id: of the part that is looked at, and of others that are shown with it. Kept beside
 * the document: selecting is not an action to undo, and there may be 100,000.
 */
export interface Selection {
  partId: string | null;
  ids: ReadonlySet<number>;
  /** The note the keyboard stands on. */
  focus: number | null;
  /** What is selected in other parts, by part; none of them is empty. */
  others: ReadonlyMap<string, ReadonlySet<number>>;
}

const NOWHERE: ReadonlyMap<string, ReadonlySet<number>> = new Map();
const NONE: Selection = { partId: null, ids: new Set(), focus: null, others: NOWHERE };
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
  /** Selects exactly these notes, and of other parts those. */
  select(
    partId: string,
    ids: Iterable<number>,
    focus: number | null = null,
    elsewhere: Iterable<readonly [string, Iterable<number>]> = [],
  ) {
    const selected = new Set(ids);
    const others = new Map(
      [...elsewhere].map(([id, own]) => [id, new Set(own)] as const).filter(([, { size }]) => size > 0),
    );
    set({
      partId,
      ids: selected,
      focus: focus ?? (selected.size === 1 && others.size === 0 ? [...selected][0] : null),
      others,
    });
  },
  /** Adds notes, or takes them out when `toggle` and all are in already. */
  add(partId: string, ids: readonly number[], toggle = false) {
    const { partId: of, ids: selectedNow, others } = store.get();
    const before = of === partId ? selectedNow : new Set<number>();
    set({ partId, ids: changed(before, ids, toggle), focus: ids.at(-1) ?? null, others });
  },
  /** The same for notes of another part than the one that is looked at. */
  addElsewhere(partId: string, ids: readonly number[], toggle = false) {
    const now = store.get();
    const others = new Map(now.others);
    const own = changed(others.get(partId) ?? new Set(), ids, toggle);
    if (own.size > 0) others.set(partId, own);
    else others.delete(partId);
    set({ ...now, others });
  },
  /** Selects exactly these notes of another part; what is selected in others stays. */
  replaceElsewhere(partId: string, ids: readonly number[]) {
    const now = store.get();
    set({ ...now, others: new Map([...now.others, [partId, new Set(ids)]]) });
  },
  /** Another part is looked at: what is selected stays, part by part. */
  lookAt(partId: string) {
    const { partId: before, ids, others } = store.get();
    if (before === partId || others.size === 0) return;
    const next = new Map(others);
    const own = next.get(partId) ?? new Set<number>();
    next.delete(partId);
    if (before !== null && ids.size > 0) next.set(before, ids);
    set({ partId, ids: own, focus: own.size === 1 ? [...own][0] : null, others: next });
  },
  clear: () => set(NONE),
};

/** Some ids with others, or without them where `toggle` and all are in already. */
function changed(before: ReadonlySet<number>, ids: readonly number[], toggle: boolean): Set<number> {
  const selected = new Set(before);
  const out = toggle && ids.every((id) => before.has(id));
  for (const id of ids) {
    if (out) selected.delete(id);
    else selected.add(id);
  }
  return selected;
}

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
