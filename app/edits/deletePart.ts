import { dependentsOf, itemOf, removeItem, type Dependent, type Part } from '@ordle/core';
import { edit, selectDocument } from '@/state/sessionSlice';
import { store, type AppDispatch } from '@/state/store';
import { createSmallStore } from '@/ui/smallStore';

/** A part that is to be deleted though others need it: asked about first. */
export interface NeededPart {
  part: Part;
  dependents: Dependent[];
}

export const neededPart = createSmallStore<NeededPart | null>(null);

/** Takes a part out of the session; where others need it, once it is said that it may go. */
export function deletePart(dispatch: AppDispatch, { id }: Pick<Part, 'id'>): void {
  const session = selectDocument(store.getState());
  const part = session && itemOf(session.parts, id);
  if (!part) return;
  const dependents = dependentsOf(part, session);
  if (dependents.length === 0) removePart(dispatch, part);
  else neededPart.set({ part, dependents });
}

export function removePart(dispatch: AppDispatch, { id, name }: Part): void {
  dispatch(edit(`Delete ${name}`, (draft) => removeItem(draft.parts, id)));
}

/** Takes a part out of what is heard and written, and leaves it to those that are made of it. */
export function setPartAside(dispatch: AppDispatch, { id, name }: Part): void {
  dispatch(
    edit(`Set ${name} aside`, (draft) => {
      const part = itemOf(draft.parts, id);
      if (part) part.setAside = true;
    }),
  );
}
