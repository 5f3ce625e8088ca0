import {
  META_TRACK_NAME,
  NEVER_RELEASED,
  isConductorEvent,
  pickEvents,
  type EventColumns,
  type NotePairs,
} from '../midi';
import { joinEvents, joinTables, mergeOrder, pickRows, type NoteTable, type Take } from '../model';
import type { Piece } from '../session';

/** Places in what was played. Those of a whole take are its pairs themselves, which costs nothing. */
export type Orders = Float64Array | Uint32Array;

/**
 * Notes and events with their old places: what `weave` needs to write what did not change in its old order. Columns
 * of notes have a row a note, `eventOrder` one an event. Ticks are the session's.
 */
export interface Strand {
  notes: NoteTable;
  events: EventColumns;
  eventOrder: Float64Array;
  onOrder: Orders;
  offOrder: Orders;
  /** Status kind of the release: 0x80, or 0x90 for a note-on of velocity 0. */
  offKind: Uint8Array;
  endTick: number;
  /** All orders lie below this; Infinity where pieces were joined. */
  places: number;
}

/** Events of one piece rank by their row; room for 64 million of them before the next piece's ranks begin. */
export const ORDERS_PER_PIECE = 2 ** 26;

export interface TakeLaying {
  /** Take tick -> session tick; null where they are the same. */
  place: ((tick: number) => number) | null;
  /** The id of row 0, by the channel 0-15 of a note; the others count on. */
  firstIds: ArrayLike<number>;
  /** Only this channel (0-15), or every one. */
  channel: number | null;
  rest: Piece['rest'];
}

/** A take as a strand: its notes and its other events, where they lie in the session. */
export function strandOfTake(take: Take, { place, firstIds, channel, rest }: TakeLaying): Strand {
  const { events, pairs } = take;
  const rows = rowsOnChannel(take, channel);
  const eventRows = rowsThatCome(take, channel, rest);
  const picked = rows ? pickRows(take.notes, rows) : take.notes;
  const placed = (ticks: Float64Array) => (place ? ticks.map(place) : ticks);
  const [onOrder, offs] = rows
    ? [Uint32Array.from(rows, (row) => pairs.on[row]), Uint32Array.from(rows, (row) => pairs.off[row])]
    : [pairs.on, pairs.off];
  const count = picked.length;
  const id = new Float64Array(count);
  const offKind = new Uint8Array(count);
  const { status, length } = events;
  const { channel: channels } = picked;
  let open = 0;
  for (let at = 0; at < count; at++) {
    const off = offs[at];
    id[at] = firstIds[channels[at]] + (rows ? rows[at] : at);
    offKind[at] = off === NEVER_RELEASED ? 0x80 : status[off] & 0xf0;
    if (off === NEVER_RELEASED) open++;
  }
  // What was never released ends after everything else.
  const offOrder = open === 0 ? offs : offs.map((off) => (off === NEVER_RELEASED ? length : off));
  const others = pickEvents(events, eventRows);
  return {
    notes: { ...picked, id, start: placed(picked.start), end: placed(picked.end) },
    events: { ...others, tick: placed(others.tick) },
    eventOrder: Float64Array.from(eventRows),
    onOrder,
    offOrder,
    offKind,
    endTick: place ? place(take.endTick) : take.endTick,
    places: length + 1,
  };
}

/** The rows of a channel's notes; null for all. */
function rowsOnChannel({ notes }: Take, channel: number | null): Uint32Array | null {
  if (channel === null || notes.channel.every((each) => each === channel)) return null;
  const rows = new Uint32Array(notes.length);
  let count = 0;
  for (let note = 0; note < notes.length; note++) if (notes.channel[note] === channel) rows[count++] = note;
  return rows.subarray(0, count);
}

/** The rows of the events that are no strokes or releases and come along. */
function rowsThatCome({ events, pairs }: Take, channel: number | null, rest: Piece['rest']): Uint32Array {
  const { length, status: statuses } = events;
  const isPaired = pairedRows(events, pairs);
  const rows = new Uint32Array(length);
  let count = 0;
  for (let row = 0; row < length; row++) {
    if (isPaired ? isPaired[row] === 1 : statuses[row] < 0xa0) continue;
    const status = statuses[row];
    const comes =
      status < 0xf0 ? channel === null || (status & 15) === channel : restComes(events, row, rest);
    if (comes) rows[count++] = row;
  }
  return rows.slice(0, count);
}

/** A byte an event: 1 for strokes and releases that belong to notes; null where all do. */
function pairedRows({ length, status }: EventColumns, { on, off }: NotePairs): Uint8Array | null {
  let left = 2 * on.length;
  for (let row = 0; row < length; row++) if (status[row] < 0xa0) left--;
  if (left === 0) return null;
  const paired = new Uint8Array(length);
  for (let note = 0; note < on.length; note++) {
    paired[on[note]] = 1;
    if (off[note] !== NEVER_RELEASED) paired[off[note]] = 1;
  }
  return paired;
}

function restComes(events: EventColumns, row: number, rest: Piece['rest']): boolean {
  if (rest !== 'untimed') return rest === 'all';
  return (
    !isConductorEvent(events, row) && !(events.status[row] === 0xff && events.data1[row] === META_TRACK_NAME)
  );
}

/** Some rows of a strand. */
export function pickStrand(
  strand: Strand,
  noteRows: ArrayLike<number>,
  eventRows: ArrayLike<number>,
): Strand {
  const column = (values: Orders, rows: ArrayLike<number>) => Float64Array.from(rows, (row) => values[row]);
  return {
    ...strand,
    notes: pickRows(strand.notes, noteRows),
    onOrder: column(strand.onOrder, noteRows),
    offOrder: column(strand.offOrder, noteRows),
    offKind: Uint8Array.from(noteRows, (row) => strand.offKind[row]),
    events: pickEvents(strand.events, eventRows),
    eventOrder: column(strand.eventOrder, eventRows),
  };
}

/** The strand with its places counted from those of its piece. */
export function ranked(strand: Strand, index: number): Strand {
  if (index === 0) return strand;
  const later = (order: Orders) => Float64Array.from(order, (rank) => rank + index * ORDERS_PER_PIECE);
  return {
    ...strand,
    eventOrder: later(strand.eventOrder),
    onOrder: later(strand.onOrder),
    offOrder: later(strand.offOrder),
    places: Infinity,
  };
}

/** Strands as one, notes by start and events by tick; what is equal keeps the order of the strands. */
export function joinStrands(strands: readonly Strand[]): Strand {
  if (strands.length === 1) return strands[0];
  const events = joinEvents(strands.map(({ events, eventOrder }) => ({ events, order: eventOrder })));
  const count = strands.reduce((sum, { notes }) => sum + notes.length, 0);
  const [start, onOrder, offOrder] = [
    new Float64Array(count),
    new Float64Array(count),
    new Float64Array(count),
  ];
  const offKind = new Uint8Array(count);
  let at = 0;
  for (const strand of strands) {
    start.set(strand.notes.start, at);
    onOrder.set(strand.onOrder, at);
    offOrder.set(strand.offOrder, at);
    offKind.set(strand.offKind, at);
    at += strand.notes.length;
  }
  const rows = mergeOrder(count, (a, b) => start[a] - start[b]);
  return {
    notes: joinTables(strands.map(({ notes }) => notes)),
    onOrder: Float64Array.from(rows, (row) => onOrder[row]),
    offOrder: Float64Array.from(rows, (row) => offOrder[row]),
    offKind: Uint8Array.from(rows, (row) => offKind[row]),
    events: events.events,
    eventOrder: events.order,
    endTick: strands.reduce((latest, { endTick }) => Math.max(latest, endTick), 0),
    places: Infinity,
  };
}
