import { OrdleError } from '../../errors';
import { SESSION_VERSION, sessionSchema, type Session } from '../session';
import { withEarlierSettings } from './earlierSettings';
import { from1 } from './from1';

/** From each version to the next. A function reads what its version stored and changes nothing of it. */
const MIGRATIONS: Readonly<Record<number, (document: unknown) => unknown>> = { 1: from1 };

/** The version a stored document says it has; null where it says none. */
export function versionOf(document: unknown): number | null {
  const named = typeof document === 'object' && document !== null && 'version' in document;
  return named && typeof document.version === 'number' ? document.version : null;
}

/**
 * A stored document of any version as one of today's, checked. Throws OrdleError `session-newer` for one of a later version, and
 * `session-unreadable` naming the place for one that cannot be read.
 */
export function readDocument(stored: unknown): Session {
  const version = versionOf(stored);
  if (version !== null && version > SESSION_VERSION) {
    throw new OrdleError(
      'session-newer',
      'This session was saved by a newer Ordle than this one. Update, then open it again; nothing was changed.',
    );
  }
  try {
    let document = stored;
    for (let at = version ?? SESSION_VERSION; at < SESSION_VERSION; at++) document = MIGRATIONS[at](document);
    return sessionSchema.parse(withEarlierSettings(document));
  } catch (error) {
    throw unreadable(error);
  }
}

function unreadable(error: unknown): OrdleError {
  const issues = typeof error === 'object' && error !== null && 'issues' in error ? error.issues : [];
  const [issue] = issues as { path: (string | number)[]; message: string }[];
  return new OrdleError(
    'session-unreadable',
    `The stored session cannot be read at ${issue?.path.join('.') || 'its start'}: ${issue?.message ?? String(error)}. It was left as it is.`,
  );
}
