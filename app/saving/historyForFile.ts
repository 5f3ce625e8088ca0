import { SESSION_VERSION } from '@ordle/core';
import { emptyHistory, historySchema, withIdentity, type History, type Work } from '@/history/history';
import { store } from '@/state/store';
import { storage } from './workspace';

/** What was done and undone in the open session as a file holds it. */
export async function historyForFile(): Promise<unknown> {
  const { work } = store.getState().session;
  return work ? historyOf(work) : undefined;
}

/** The history of a session as a file holds it, those actions included that lie in storage. */
export async function historyOf({ document, history }: Work): Promise<unknown> {
  const { done, undone, former, earlier = 0 } = history;
  const before = earlier > 0 ? await storage.earlier(document.id, 0, earlier) : [];
  return { version: SESSION_VERSION, done: [...before, ...done], undone, ...(former && { former }) };
}

/**
 * The history that came with a session file, for the session it became; none where it cannot be read or was made by a
 * version whose actions fit no longer.
 */
export function historyOfFile(history: unknown, document: Work['document']): History {
  if (typeof history !== 'object' || history === null) return emptyHistory();
  const { version, ...rest } = history as { version?: unknown };
  const read = historySchema.safeParse(rest);
  if (version !== SESSION_VERSION || !read.success) return emptyHistory();
  const { id, createdAt } = document;
  return withIdentity({ document, history: read.data }, { id, createdAt }).history;
}
