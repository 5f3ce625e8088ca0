import { OrdleError } from '../../errors';
import { isDrawnId } from '../../model';
import { kindOf } from '../../steps';
import { listOf } from '../ordered';
import { SESSION_MINOR, SESSION_VERSION, sessionSchema, type Session } from '../session';
import { withEarlierSettings, withOwnPulses, withPlacesOfBeats } from './earlierSettings';
import { from1 } from './from1';

/** From each version to the next. A function reads what its version stored and changes nothing of it. */
const MIGRATIONS: Readonly<Record<number, (document: unknown) => unknown>> = { 1: from1 };

/** From here on a document says which parts were recorded together. */
const WITH_RECORDINGS = 2;
/** And what is said of beats names every place in the bars. */
const WITH_PLACES = 3;

/** The version a stored document says it has; null where it says none. */
export function versionOf(document: unknown): number | null {
  const named = typeof document === 'object' && document !== null && 'version' in document;
  return named && typeof document.version === 'number' ? document.version : null;
}

/** A document as it is stored: with what it may hold beyond its version. */
export const toStore = (session: Session): Session & { minor: number } => ({
  ...session,
  minor: SESSION_MINOR,
});

function withoutMinor(document: unknown): unknown {
  if (typeof document !== 'object' || document === null) return document;
  const rest: Record<string, unknown> = { ...document };
  delete rest.minor;
  return rest;
}

/** What a stored document says it holds beyond its version; 0 where it says nothing. */
function minorOf(document: unknown): number {
  const named = typeof document === 'object' && document !== null && 'minor' in document;
  return named && typeof document.minor === 'number' ? document.minor : 0;
}

/**
 * A stored document of any version as one of today's, checked. Throws OrdleError `session-newer` for one of a later
 * version, or that holds what this program does not know yet, and `session-unreadable` naming the place for one that
 * cannot be read.
 */
export function readDocument(stored: unknown): Session {
  const version = versionOf(stored);
  if (version !== null && version > SESSION_VERSION) throw newer();
  if (version === SESSION_VERSION && minorOf(stored) > SESSION_MINOR) throw newer();
  try {
    let document = stored;
    for (let at = version ?? SESSION_VERSION; at < SESSION_VERSION; at++) document = MIGRATIONS[at](document);
    if (minorOf(stored) < WITH_RECORDINGS) document = withOwnPulses(document);
    if (minorOf(stored) < WITH_PLACES) document = withPlacesOfBeats(document);
    return withNumbersLeft(sessionSchema.parse(withEarlierSettings(withoutMinor(document))));
  } catch (error) {
    throw unreadable(error, stored);
  }
}

const newer = () =>
  new OrdleError(
    'session-newer',
    'This session was saved by a newer Ordle than this one. Update, then open it again; nothing was changed.',
  );

/**
 * The document with its counters above every number in it: a number that were given twice would make one note of two.
 */
function withNumbersLeft(session: Session): Session {
  let { nextPiece, nextNoteId } = session;
  const named = (number: number) => (nextPiece = Math.max(nextPiece, number + 1));
  for (const part of listOf(session.parts)) {
    for (const { layers } of [part, ...part.folded])
      for (const { pieces } of listOf(layers)) for (const { number } of listOf(pieces)) named(number);
    for (const { number } of part.takes ? listOf(part.takes) : []) named(number);
    for (const { steps } of [part, ...part.folded])
      for (const { step } of listOf(steps))
        for (const id of kindOf(step.kind).idsDrawn?.(step) ?? [])
          if (isDrawnId(id)) nextNoteId = Math.max(nextNoteId, id + 1);
  }
  if (nextPiece === session.nextPiece && nextNoteId === session.nextNoteId) return session;
  return { ...session, nextPiece, nextNoteId };
}

function unreadable(error: unknown, stored: unknown): OrdleError {
  if (error instanceof OrdleError) return error;
  const issues = (
    typeof error === 'object' && error !== null && 'issues' in error ? error.issues : []
  ) as Issue[];
  const isSession =
    typeof stored === 'object' && stored !== null && 'ordle' in stored && stored.ordle === 'session';
  if (isSession && issues.some(isOfUnknownKey)) return newer();
  const [issue] = issues as (Issue | undefined)[];
  return new OrdleError(
    'session-unreadable',
    `The stored session cannot be read at ${issue?.path.join('.') || 'its start'}: ${issue?.message ?? String(error)}. It was left as it is.`,
  );
}

interface Issue {
  code?: string;
  path: PropertyKey[];
  message: string;
  errors?: readonly (readonly Issue[])[];
}

/** A key nothing is known of was put there by a later program: damage makes wrong values, hardly new words. */
export const isOfUnknownKey = ({ code, errors }: Pick<Issue, 'code' | 'errors'>): boolean =>
  code === 'unrecognized_keys' ||
  (errors?.some((branch) => branch.length > 0 && branch.every(isOfUnknownKey)) ?? false);
