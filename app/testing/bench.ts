import {
  FIRST_DRAWN_ID,
  PLAIN_SEAMS,
  PLAIN_DOUBLES,
  orderedOf,
  listOf,
  itemOf,
  createTimeline,
  type Part,
  type Session,
  type Step,
} from '@ordle/core';
import { emptyHistory } from '@/history/history';
import { opened } from '@/state/sessionSlice';
import { store } from '@/state/store';
import { initialView, viewRestored } from '@/state/viewSlice';

/** A part of a session under test, with some steps whose ids are its own and their number: `p0-0`, `p0-1` ... */
export function partOfSteps(id: string, steps: Step[] = [], more: Partial<Part> = {}): Part {
  return {
    id,
    name: `Part ${id}`,
    ink: 0,
    channel: 1,
    sound: { program: 12, drums: false, chosen: false },
    rechannel: false,
    lockedTo: 'beats',
    layers: orderedOf([]),
    doubles: PLAIN_DOUBLES,
    seams: PLAIN_SEAMS,
    steps: orderedOf(steps.map((step, index) => ({ id: `${id}-${index}`, step }))),
    folded: [],
    setAside: false,
    muted: false,
    soloed: false,
    ...more,
  };
}

export const sessionOfParts = (parts: Part[]): Session => ({
  ordle: 'session',
  version: 2,
  id: 's',
  name: 'Quay',
  createdAt: 0,
  division: { kind: 'metrical', ticksPerQuarter: 480 },
  sourceFormat: 1,
  tempos: [],
  meters: [],
  takes: orderedOf([]),
  conductor: null,
  parts: orderedOf(parts),
  nextPiece: 0,
  nextNoteId: FIRST_DRAWN_ID,
});

export const TIMELINE = createTimeline({ kind: 'metrical', ticksPerQuarter: 480 }, [], []);

/** Opens a session in the store, as the shelf does, and returns ways to look at what becomes of it. */
export function openSession(parts: Part[]) {
  store.dispatch(viewRestored(initialView));
  store.dispatch(
    opened({
      work: { document: sessionOfParts(parts), history: emptyHistory() },
      mayWrite: true,
      saving: { state: 'waiting' },
    }),
  );
  const part = (id: string): Part => {
    const found = itemOf(store.getState().session.work?.document.parts ?? orderedOf<Part>([]), id);
    if (!found) throw new Error(`no part ${id}`);
    return found;
  };
  return {
    part,
    steps: (id: string) => listOf(part(id).steps).map(({ step }) => step),
    kinds: (id: string) => listOf(part(id).steps).map(({ step }) => step.kind),
    labels: () => store.getState().session.work?.history.done.map(({ label }) => label) ?? [],
    currentStopSet: (id: string) => store.getState().view.stops[id],
  };
}
