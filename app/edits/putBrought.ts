import type { BroughtParts, Session } from '@ordle/core';
import type { Draft } from 'immer';

/** Puts parts of another session, as they were prepared for this one, at the end of its parts. */
export function putBrought(draft: Draft<Session>, brought: BroughtParts): void {
  for (const reference of brought.references) {
    draft.takes.byId[reference.id] = { ...reference };
    draft.takes.order.push(reference.id);
  }
  for (const part of brought.parts) {
    draft.parts.byId[part.id] = structuredClone(part);
    draft.parts.order.push(part.id);
  }
  draft.nextPiece = brought.nextPiece;
  draft.nextNoteId = brought.nextNoteId;
}
