/**
 * The one kind of error Ordle raises on purpose. `code` is for programs and tests, `message` is a whole
 * sentence for a person: what is wrong, where, and what can be done.
 *
 * @public
 */
export class OrdleError extends Error {
  readonly code: string;
  readonly place: { track?: number; byte?: number; path?: string };

  constructor(code: string, message: string, place: { track?: number; byte?: number; path?: string } = {}) {
    super(message);
    this.name = 'OrdleError';
    this.code = code;
    this.place = place;
  }
}

/**
 * A person's sentence for anything that was thrown; unexpected errors say so instead of posing as known ones.
 *
 * @public
 */
export function sentenceOf(error: unknown): string {
  if (error instanceof OrdleError) return error.message;
  if (error instanceof Error) return `Something went wrong that Ordle did not foresee: ${error.message}`;
  return `Something went wrong that Ordle did not foresee: ${String(error)}`;
}
