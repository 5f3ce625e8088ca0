import { sentenceOf } from '@ordle/core';
import { useSyncExternalStore } from 'react';
import { Cancelled, engine } from '@/engine/engineClient';
import { createLatest } from '@/engine/latest';
import type { PartView, PartViewRequest } from '@/engine/protocol';

/** The last worked-out view of the active part, kept beside the document because its columns are large. */
export interface PartViewState {
  view: PartView | null;
  /** Whether a newer one is being worked out. */
  busy: boolean;
  error: string | null;
}

let state: PartViewState = { view: null, busy: false, error: null };
const listeners = new Set<() => void>();

function set(next: PartViewState) {
  state = next;
  listeners.forEach((listener) => listener());
}

let asked = 0;
let answered = 0;

const latest = createLatest<PartViewRequest & { turn: number }, PartView>(
  (request) => engine.viewPart(request),
  (view, { turn }) => {
    answered = turn;
    set({ view, busy: asked !== answered, error: null });
  },
  (error) => set({ ...state, busy: false, error: error instanceof Cancelled ? null : sentenceOf(error) }),
);

export const partViewStore = {
  get: () => state,
  subscribe(listener: () => void) {
    listeners.add(listener);
    return () => void listeners.delete(listener);
  },
  ask(request: PartViewRequest) {
    // What is shown of another part must not pass for this one.
    const view = state.view?.partId === request.partId ? state.view : null;
    set({ view, busy: true, error: null });
    latest.ask({ ...request, turn: ++asked });
  },
  clear() {
    latest.drop();
    set({ view: null, busy: false, error: null });
  },
};

export function usePartView(): PartViewState {
  return useSyncExternalStore(partViewStore.subscribe, partViewStore.get);
}

/** A plain value worked out of the view of a part, null while there is none; renders again only when the value is another. */
export function usePartViewValue<T extends string | number>(
  partId: string | undefined,
  pick: (view: PartView) => T,
): T | null {
  return useSyncExternalStore(partViewStore.subscribe, () =>
    state.view && state.view.partId === partId ? pick(state.view) : null,
  );
}
