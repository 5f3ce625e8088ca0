import { itemOf, type Part, type Session } from '@ordle/core';
import { store } from './store';

/**
 * What an answer of the engine was worked out for: a session, and mostly a part of it, as they were when it was
 * asked.
 */
export interface Asked {
  sessionId: string;
  /** The part it is about; null where it is about the session as a whole. */
  partId: string | null;
}

/** The document, and the part, that an answer meets. */
export interface Met {
  session: Session;
  part: Part | null;
}

export interface Answer {
  asked: Asked;
  /** Whether what the answer was worked out from is still so. Without it the answer fits wherever its part still is. */
  fits?(now: Met): boolean;
  /** Writes the answer into the document as it is now. */
  apply(now: Met): void;
  /** The part or session was left, removed or may not be changed any more. */
  gone(): void;
  /** It does not fit any more: worked out anew for what is there now, or refused with a sentence. */
  changed?(now: Met): void | Promise<void>;
}

/**
 * The one way in which an answer of the engine changes the document: what it was worked out for is compared with what
 * is there by now, and it is applied, rebased or refused.
 */
export function applyAnswer({ asked, fits, apply, gone, changed }: Answer): void | Promise<void> {
  const now = meet(asked);
  if (!now) return gone();
  if (fits && !fits(now)) return changed?.(now);
  apply(now);
}

/** What is there by now of what was asked about; null where it is gone or may not be changed. */
export function meet({ sessionId, partId }: Asked): Met | null {
  const { work, mayWrite } = store.getState().session;
  const session = work?.document;
  if (!mayWrite || session?.id !== sessionId) return null;
  const part = partId === null ? null : (itemOf(session.parts, partId) ?? null);
  return partId !== null && !part ? null : { session, part };
}
