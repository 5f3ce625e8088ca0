import { OrdleError } from '@ordle/core';

/** The browser's name for a fault, where it has one. */
function nameOf(error: unknown): string {
  return typeof error === 'object' && error !== null && 'name' in error ? String(error.name) : '';
}

/** What kept the database from opening, as a sentence: `database-newer`, `storage-full` or `storage-refused`. */
export function openingError(error: unknown): OrdleError {
  if (nameOf(error) === 'VersionError') {
    return new OrdleError(
      'database-newer',
      'What is stored in this browser was written by a newer Ordle than this one. Reload the page to get the newer one; nothing stored was touched.',
    );
  }
  if (nameOf(error) === 'QuotaExceededError') return storageError(error);
  return new OrdleError(
    'storage-refused',
    'This browser refuses storage (a private window, perhaps): the work is kept only until this tab is closed. Export what you need.',
  );
}

/**
 * What kept something from being written or read, as a sentence: `storage-full` or `storage-failed`. An OrdleError
 * stays as it is.
 */
export function storageError(error: unknown): OrdleError {
  if (error instanceof OrdleError) return error;
  if (nameOf(error) === 'QuotaExceededError') {
    return new OrdleError(
      'storage-full',
      'The disk is full, or the share of it that this browser may use. Free some space, or delete sessions you no longer need.',
    );
  }
  const reason = error instanceof Error && error.message ? error.message : nameOf(error) || String(error);
  return new OrdleError('storage-failed', `The browser's storage failed (${reason}).`);
}
