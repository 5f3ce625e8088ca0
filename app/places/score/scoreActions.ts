import {
  createStep,
  insertItems,
  isScore,
  listOf,
  partsWithScore,
  removeItem,
  type NotationSettings,
  type Part,
  type PlacedStep,
  type Reference,
  type Session,
} from '@ordle/core';
import { edit } from '@/state/sessionSlice';
import type { AppDispatch } from '@/state/store';

/** Takes the score of a part away, and of those that are followed with it. */
export function takeAway(dispatch: AppDispatch, session: Session, part: Part) {
  const ids = partsWithScore(part, session).map(({ id }) => id);
  const name = part.reference?.name ?? '';
  dispatch(
    edit(`Take “${name}” away`, (draft) => {
      for (const id of ids) delete draft.parts.byId[id].reference;
    }),
  );
}

/** Changes what is said of the score of a part, and of those that are followed with it. */
export function changeReference(
  dispatch: AppDispatch,
  session: Session,
  part: Part,
  label: string,
  change: Partial<Reference>,
) {
  const ids = partsWithScore(part, session).map(({ id }) => id);
  dispatch(
    edit(label, (draft) => {
      for (const id of ids) {
        const { reference } = draft.parts.byId[id];
        if (reference) draft.parts.byId[id].reference = { ...reference, ...change };
      }
    }),
  );
}

/** Cleans a part to its score, and those that are followed with it; or takes that back. */
export function cleanToScore(dispatch: AppDispatch, session: Session, part: Part, on: boolean) {
  const parts = partsWithScore(part, session);
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
