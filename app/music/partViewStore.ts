import { itemOf, sentenceOf, type Part, type Session, type PartView } from '@ordle/core';
import { Cancelled, engine } from '@/engine/engineClient';
import { createLatest } from '@/engine/latest';
import type { PartViewRequest } from '@/engine/protocol';
import { createSmallStore } from '@/ui/smallStore';

/** The last worked-out view of the active part, kept beside the document because its columns are large. */
export interface PartViewState {
  view: PartView | null;
  /** Whether a newer one is being worked out. */
  busy: boolean;
  error: string | null;
  /** The part, as it was in the document, that the view (or the error) is of. */
  asOf: Part | null;
}

const NOTHING: PartViewState = { view: null, busy: false, error: null, asOf: null };
const store = createSmallStore(NOTHING);
const { get, set } = store;

let asked = 0;
let answered = 0;

const latest = createLatest<PartViewRequest & { turn: number }, PartView>(
  (request) => engine.viewPart(request),
  (view, { turn, session, partId }) => {
    answered = turn;
    set({ view, busy: asked !== answered, error: null, asOf: partOf(session, partId) });
  },
  (error) =>
    set({
      ...get(),
      busy: false,
      error: error instanceof Cancelled ? null : sentenceOf(error),
      asOf: latestPart,
    }),
);

/** The part last asked for: an error is of it. */
let latestPart: Part | null = null;
const partOf = (session: Session, partId: string) => itemOf(session.parts, partId) ?? null;

export const partViewStore = {
  get,
  subscribe: store.subscribe,
  ask(request: PartViewRequest) {
    // What is shown of another part must not pass for this one.
    const before = get();
    const view = before.view?.partId === request.partId ? before.view : null;
    set({ ...before, view, busy: true, error: null });
    latestPart = partOf(request.session, request.partId);
    latest.ask({ ...request, turn: ++asked });
  },
  clear() {
    latest.drop();
    set(NOTHING);
  },
};

export const usePartView = store.useValue;

/**
 * A plain value worked out of the view of a part, null while there is none; renders again only when the value is
 * another.
 */
export function usePartViewValue<T extends string | number>(
  partId: string | undefined,
  pick: (view: PartView) => T,
): T | null {
  return store.usePicked<T | null>(({ view }) => (view && view.partId === partId ? pick(view) : null));
}

/** The pitches a part uses, as a text of numbers: the same text for as long as they are. */
export const pitchesIn = ({ notes }: PartView): string =>
  [...notes.usedPitches.keys()].filter((pitch) => notes.usedPitches[pitch] === 1).join(' ');
