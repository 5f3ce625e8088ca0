import { nextPart } from '@ordle/core';
import { edit } from '@/state/sessionSlice';
import type { AppDispatch } from '@/state/store';

/** Adds a part with nothing in it, after all others. */
export function addEmptyPart(dispatch: AppDispatch): void {
  dispatch(
    edit('New part', (draft) => {
      const part = nextPart(draft, crypto.randomUUID());
      draft.parts.byId[part.id] = structuredClone(part);
      draft.parts.order.push(part.id);
    }),
  );
}
