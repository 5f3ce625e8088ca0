import { removeItem, type Part } from '@ordle/core';
import { edit } from '@/state/sessionSlice';
import type { AppDispatch } from '@/state/store';

/** Takes a part out of the session. */
export function deletePart(dispatch: AppDispatch, { id, name }: Pick<Part, 'id' | 'name'>): void {
  dispatch(edit(`Delete ${name}`, (draft) => removeItem(draft.parts, id)));
}
