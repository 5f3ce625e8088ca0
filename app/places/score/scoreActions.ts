import {
  createStep,
  insertItems,
  isScore,
  listOf,
  removeItem,
  type NotationSettings,
  type Part,
  type PlacedStep,
  type Reference,
  type Session,
} from '@ordle/core';
import { edit } from '@/state/sessionSlice';
import type { AppDispatch } from '@/state/store';

/** Parts that are followed along the same score. */
export const partsAlong = (session: Session, score: string): Part[] =>
  listOf(session.parts).filter(({ reference }) => reference?.score === score);

export function takeAway(dispatch: AppDispatch, session: Session, { score, name }: Reference) {
  const ids = partsAlong(session, score).map(({ id }) => id);
  dispatch(
    edit(`Take “${name}” away`, (draft) => {
      for (const id of ids) delete draft.parts.byId[id].reference;
    }),
  );
}

/** Changes what is said of a score at every part it is laid beside. */
export function changeReference(
  dispatch: AppDispatch,
  session: Session,
  score: string,
  label: string,
  change: Partial<Reference>,
) {
  const ids = partsAlong(session, score).map(({ id }) => id);
  dispatch(
    edit(label, (draft) => {
      for (const id of ids) {
        const { reference } = draft.parts.byId[id];
        if (reference) draft.parts.byId[id].reference = { ...reference, ...change };
      }
    }),
  );
}

/** Cleans the parts along a score to it, or takes that back. */
export function cleanToScore(dispatch: AppDispatch, session: Session, score: string, on: boolean) {
  const parts = partsAlong(session, score);
  const made = parts.map(() => crypto.randomUUID());
  dispatch(
    edit(on ? 'Clean to the score' : 'Take out what goes by the score', (draft) => {
      parts.forEach(({ id, steps }, index) => {
        const own = draft.parts.byId[id].steps;
        for (const placed of listOf(steps)) if (isScore(placed.step)) removeItem(own, placed.id);
        if (on) insertItems<PlacedStep>(own, [{ id: made[index], step: createStep('score') }]);
      });
    }),
  );
}

/** Changes how a part is written down; the part itself stays as it is. */
export function setNotation(dispatch: AppDispatch, partId: string, label: string, change: NotationSettings) {
  dispatch(
    edit(label, (draft) => {
      const part = draft.parts.byId[partId];
      part.notation = { ...part.notation, ...change };
    }),
  );
}
