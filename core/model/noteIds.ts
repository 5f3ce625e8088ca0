import { OrdleError } from '../errors';
import type { NoteTable } from './noteTable';

/**
 * A note is known by its piece and by its identity in the piece's source. Ids are whole numbers below 2^53:
 *
 * - below 2^51: a note of a take. The number of its piece times 2^26, plus its row in the take. Numbers of pieces are
 *   never used twice.
 * - 2^51 to 2^52: a note that came through something else (another part, a copy laid by a layout). A mix of that
 *   thing's number and of the note's id there.
 * - from 2^52: a note drawn by hand, counted through the session.
 * - the last 2^26: a note a recipe adds without an id, counted down.
 */
const ROWS_PER_PIECE = 2 ** 26;
const FIRST_MIXED = 2 ** 51;
export const FIRST_DRAWN_ID = 2 ** 52;
const LAST_ID = 2 ** 53 - 1;
const FIRST_UNNAMED = 2 ** 53 - 2 ** 26;

/** The largest id there can be, for schemas. */
export const MAX_NOTE_ID = LAST_ID;

/**
 * The id of row 0 of the take that piece `number` lays; the other rows count on. Throws `too-many-pieces` past 2^25
 * pieces.
 */
export function firstIdOfPiece(number: number): number {
  if (number >= FIRST_MIXED / ROWS_PER_PIECE)
    throw new OrdleError(
      'too-many-pieces',
      'This session has laid more pieces than Ordle can number. Start a new one.',
    );
  return number * ROWS_PER_PIECE;
}

/** The piece and row of a note of a take; null for a note that came another way. */
export function pieceAndRow(id: number): { piece: number; row: number } | null {
  if (id >= FIRST_MIXED) return null;
  const piece = Math.floor(id / ROWS_PER_PIECE);
  return { piece, row: id - piece * ROWS_PER_PIECE };
}

/** Whether an id is that of a note drawn by hand. */
export const isDrawnId = (id: number): boolean => id >= FIRST_DRAWN_ID && id < FIRST_UNNAMED;

/** The id of an added note that names none, by its place in its list. */
export const unnamedId = (place: number): number => LAST_ID - place;

/** What humanize draws by for a note of no piece: drawn notes count from 0, as they did before pieces had numbers. */
export function drawnBy(id: number): number {
  if (id >= FIRST_UNNAMED) return 0xffffffff - (LAST_ID - id);
  return id >= FIRST_DRAWN_ID ? id - FIRST_DRAWN_ID : id;
}

/**
 * One identity out of two: what a note has come through (a piece, a copy), and its id there. Two rounds of the
 * finalizer of MurmurHash3 (public domain) over both numbers give 51 bits; `taken` resolves the rare collision the
 * same way each time.
 */
export function mixIds(through: number, id: number, taken: { has(id: number): boolean }): number {
  const high = mix(mix(mix(through, 0x9e3779b1), id / 2 ** 32), id);
  const low = mix(mix(mix(through / 2 ** 32, high), id), 0x85ebca6b);
  let mixed = high * 2 ** 19 + (low >>> 13);
  while (taken.has(FIRST_MIXED + mixed)) mixed = (mixed + 1) % FIRST_MIXED;
  return FIRST_MIXED + mixed;
}

function mix(value: number, seed: number): number {
  let mixed = Math.imul((value >>> 0) ^ Math.imul(seed, 0xcc9e2d51), 0x1b873593);
  mixed = Math.imul(mixed ^ (mixed >>> 16), 0x85ebca6b);
  mixed = Math.imul(mixed ^ (mixed >>> 13), 0xc2b2ae35);
  return (mixed ^ (mixed >>> 16)) >>> 0;
}

/**
 * A whole number from a text, the same each time (FNV-1a, public domain): what a copy of a block with an id is mixed
 * by.
 */
export function numberOfText(text: string): number {
  let hash = 0x811c9dc5;
  for (let at = 0; at < text.length; at++) hash = Math.imul(hash ^ text.charCodeAt(at), 0x01000193);
  return hash >>> 0;
}

/** Finds rows by id. */
export interface IdIndex {
  /** The row of an id; -1 where there is none. */
  rowOf(id: number): number;
  has(id: number): boolean;
}

const PAGE = 1024;

/** How far around the last answer rows are looked through before an index is made. */
const NEAR = 8;

/**
 * An index over ids, no two alike. Mostly rows are asked for nearly in the order in which they lie, since tables come
 * from one another: then the next row or one near it is the answer, and nothing else is made. The first id that is
 * asked for out of turn has the index made.
 */
export function indexIds(ids: ArrayLike<number>): IdIndex {
  let at = -1;
  let index: ((id: number) => number) | null = null;
  const rowOf = (id: number): number => {
    if (ids[at + 1] === id) return ++at;
    const last = Math.min(ids.length - 1, at + NEAR);
    for (let row = Math.max(0, at - NEAR); row <= last; row++) if (ids[row] === id) return (at = row);
    index ??= indexInPages(ids);
    const row = index(id);
    if (row >= 0) at = row;
    return row;
  };
  return { rowOf, has: (id) => rowOf(id) >= 0 };
}

/**
 * Ids of takes and of drawn notes lie close together, so they are found through pages of rows, which costs a fraction
 * of a map of numbers; scattered ones through a map.
 */
function indexInPages(ids: ArrayLike<number>): (id: number) => number {
  const pages = new Map<number, Int32Array>();
  const scattered = new Map<number, number>();
  const mostPages = 16 + ids.length / 16;
  let known = -1;
  let page: Int32Array = new Int32Array(0);
  for (let row = 0; row < ids.length; row++) {
    const id = ids[row];
    const number = Math.floor(id / PAGE);
    if (number !== known) {
      const found = pages.get(number);
      if (!found && ((id >= FIRST_MIXED && id < FIRST_DRAWN_ID) || pages.size > mostPages)) {
        scattered.set(id, row);
        continue;
      }
      [known, page] = [number, found ?? new Int32Array(PAGE).fill(-1)];
      if (!found) pages.set(number, page);
    }
    page[id - number * PAGE] = row;
  }
  let last = -1;
  let lastPage = page;
  return (id) => {
    const number = Math.floor(id / PAGE);
    if (number !== last) {
      const found = pages.get(number);
      if (!found) return scattered.get(id) ?? -1;
      [last, lastPage] = [number, found];
    }
    const row = lastPage[id - number * PAGE];
    return row >= 0 || scattered.size === 0 ? row : (scattered.get(id) ?? -1);
  };
}

/** Indices of tables by identity: tables never change. */
const indices = new WeakMap<NoteTable, IdIndex>();

/** Finds the rows of a table by id, made once a table. */
export function rowsById(notes: NoteTable): IdIndex {
  const known = indices.get(notes);
  if (known) return known;
  const made = indexIds(notes.id);
  indices.set(notes, made);
  return made;
}

/** A byte a row: 1 for the notes whose ids are given. */
export function rowsNamed(id: Float64Array, ids: ReadonlySet<number>): Uint8Array {
  const rows = new Uint8Array(id.length);
  if (ids.size > 0) for (let row = 0; row < id.length; row++) if (ids.has(id[row])) rows[row] = 1;
  return rows;
}
