import {
  OrdleError,
  patchesBetween,
  settled,
  withPatches,
  type DocumentPatch,
  type Session,
} from '@ordle/core';

/**
 * How the engine gets to know a document: whole, or as what changed since the revision it has. Every question carries
 * one; mostly it is empty, since the engine has the document already.
 */
export interface DocumentMessage {
  revision: number;
  whole?: Session;
  /** From which revision `patches` lead to this one. */
  since?: number;
  patches?: DocumentPatch[];
}

/** The page's side: what the engine has, and what it has to be sent to have another document. */
export function createDocumentSender() {
  let known: Session | null = null;
  let revision = 0;
  return {
    /** A message after which the engine has `session`. Messages must be sent in the order in which they are made. */
    messageFor(session: Session): DocumentMessage {
      if (session === known) return { revision };
      const since = revision++;
      const message: DocumentMessage =
        known?.id === session.id
          ? { revision, since, patches: patchesBetween(known, session) }
          : { revision, whole: session };
      known = session;
      return message;
    },
    /** The engine was started anew, or has lost the thread: the next document goes whole. */
    forget() {
      known = null;
    },
  };
}

/**
 * What an engine that was asked from a revision it does not have answers with; the page then sends the document
 * whole.
 */
export const ENGINE_BEHIND = 'engine-behind';

/** The engine's side: the document as it was last sent. What did not change stays the very same object. */
export function createDocumentReceiver() {
  let document: Session | null = null;
  let revision = 0;
  return {
    /** The document a message means. Throws OrdleError `engine-behind`. */
    read(message: DocumentMessage): Session {
      if (message.whole) document = settled(message.whole);
      else if (!document || (message.since ?? message.revision) !== revision)
        throw new OrdleError(ENGINE_BEHIND, 'The document was changed while the engine was away. Try again.');
      else if (message.patches) document = settled(withPatches(document, message.patches));
      revision = message.revision;
      return document;
    },
  };
}
