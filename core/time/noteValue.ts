import { OrdleError } from '../errors';

/**
 * `1/8`, `1/8T` (triplet, two thirds), `1/8D` (dotted, three halves), or so many equal parts of a span.
 *
 * @public
 */
export type NoteValue = string | { count: number; in: string };

export const NOTE_VALUE_PATTERN = /^1\/(1|2|4|8|16|32|64|128)([TD]?)$/;

/** Length of a note value in quarter notes. Throws `note-value` when it is not one. */
export function quartersOf(value: NoteValue): number {
  if (typeof value !== 'string') return quartersOf(value.in) / value.count;
  const match = NOTE_VALUE_PATTERN.exec(value);
  if (!match) {
    throw new OrdleError(
      'note-value',
      `"${value}" is not a note value; write it like 1/16, 1/8T (triplet) or 1/4D (dotted).`,
    );
  }
  const plain = 4 / Number(match[1]);
  if (match[2] === 'T') return (plain * 2) / 3;
  if (match[2] === 'D') return (plain * 3) / 2;
  return plain;
}

/** The value in words for labels: `1/16`, or `5 in 1/4` for a tuplet. */
export function nameOfNoteValue(value: NoteValue): string {
  return typeof value === 'string' ? value : `${value.count} in ${value.in}`;
}
