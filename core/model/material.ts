import type { EventColumns } from '../midi';
import type { NoteTable } from './noteTable';

/**
 * What steps work on: the notes, and every other event of the part (controllers, programs, text ...) with ticks in the
 * session's time. Both are replaced, never written into.
 */
export interface Material {
  readonly notes: NoteTable;
  readonly events: EventColumns;
}
