import {
  META_TRACK_NAME,
  NEVER_RELEASED,
  createEventBuilder,
  isConductorEvent,
  payloadOf,
  pickEvents,
  type EventColumns,
} from '../midi';
import { joinTables, pickRows, type Material, type NoteTable, type Take } from '../model';
import type { Part, Segment, Session } from '../session';
import { ticksPerQuarter, type Timeline } from '../time';
import { joinEvents } from './joinEvents';

/** Finds a take by its key. */
export type TakeSource = (key: string) => Take;

/**
 * A part before any step: its material, and for every note and event its place in what was played, so that an unchanged
 * part is written in its old order. Orders can be compared within the part.
 */
export interface Assembly {
  material: Material;
  eventOrder: Float64Array;
  origins: NoteOrigins;
  /** Where the material ends, in ticks. */
  endTick: number;
}

/** Events of one segment rank by their row; room for 64 million of them before the next segment's ranks begin. */
const ORDERS_PER_SEGMENT = 2 ** 26;
/** Ranks of one take: room for 2,048 segments. */
export const ORDERS_PER_TAKE = 2 ** 37;

/** Where the notes of an assembly came from, by note id. */
export interface NoteOrigins {
  rowOf: Map<number, number>;
  start: Float64Array;
  end: Float64Array;
  onOrder: Float64Array;
  offOrder: Float64Array;
  /** Status kind of the release: 0x80, or 0x90 for a note-on of velocity 0. */
  offKind: Uint8Array;
}

/** The parts of takes a part is made of, laid into the session's time. Overlapping layers are all heard. */
export function assemble(part: Part, session: Session, timeline: Timeline, takes: TakeSource): Assembly {
  const pieces = part.layers.flat().map((segment, index) => {
    const take = takes(segment.take);
    const reference = session.takes.find((known) => known.key === segment.take);
    return laySegment(take, segment, {
      scale:
        timeline.ticksPerQuarter /
        ticksPerQuarter(take.division, take.tempos[0]?.microsecondsPerQuarter ?? 500000),
      firstNoteId: reference?.firstNoteId ?? 0,
      firstOrder: index * ORDERS_PER_SEGMENT,
    });
  });
  return soundAs(part, joinPieces(pieces));
}

/** Where a person chose the sound or the channel, the part's events say so instead of the takes'. */
function soundAs(part: Part, assembly: Assembly): Assembly {
  const { sound, rechannel } = part;
  if (!sound.chosen && !rechannel) return assembly;
  const { notes, events } = assembly.material;
  const channel = part.channel - 1;
  const builder = createEventBuilder(events.length + 1);
  const order: number[] = [];
  const moved = (status: number) => (rechannel && status < 0xf0 ? (status & 0xf0) | channel : status);
  if (sound.chosen && !sound.drums) {
    builder.add(0, 0xc0 | channel, sound.program, 0);
    order.push(-1);
  }
  for (let row = 0; row < events.length; row++) {
    const kind = events.status[row] & 0xf0;
    const isBank = kind === 0xb0 && (events.data1[row] === 0 || events.data1[row] === 32);
    if (sound.chosen && (kind === 0xc0 || isBank)) continue;
    const payload = events.payload[row] === 0 ? undefined : payloadOf(events, row);
    builder.add(events.tick[row], moved(events.status[row]), events.data1[row], events.data2[row], payload);
    order.push(assembly.eventOrder[row]);
  }
  return {
    ...assembly,
    eventOrder: Float64Array.from(order),
    material: {
      events: builder.build(),
      notes: rechannel ? { ...notes, channel: new Uint8Array(notes.length).fill(channel) } : notes,
    },
  };
}

/** A whole track as it stands, all channels, ids counted from `firstNoteId`. */
export function assembleTake(take: Take, firstNoteId: number): Assembly {
  const segment: Segment = { take: take.key, channel: null, from: 0, to: null, at: 0, rest: 'all' };
  return joinPieces([laySegment(take, segment, { scale: 1, firstNoteId, firstOrder: 0 })]);
}

interface Piece {
  notes: NoteTable;
  events: EventColumns;
  eventOrder: Float64Array;
  onOrder: Float64Array;
  offOrder: Float64Array;
  offKind: Uint8Array;
  endTick: number;
}

interface Laying {
  scale: number;
  firstNoteId: number;
  firstOrder: number;
}

function laySegment(take: Take, segment: Segment, { scale, firstNoteId, firstOrder }: Laying): Piece {
  const { events, pairs } = take;
  const place = (tick: number) => tick * scale - segment.from + segment.at;
  const inside = (tick: number) =>
    tick * scale >= segment.from && (segment.to === null || tick * scale < segment.to);
  const channel = segment.channel === null ? -1 : segment.channel - 1;

  const noteRows: number[] = [];
  const isNoteEvent = new Uint8Array(events.length);
  for (let note = 0; note < take.notes.length; note++) {
    isNoteEvent[pairs.on[note]] = 1;
    if (pairs.off[note] !== NEVER_RELEASED) isNoteEvent[pairs.off[note]] = 1;
    if (channel >= 0 && take.notes.channel[note] !== channel) continue;
    if (inside(take.notes.start[note])) noteRows.push(note);
  }
  const eventRows: number[] = [];
  for (let row = 0; row < events.length; row++) {
    if (isNoteEvent[row] || !inside(events.tick[row])) continue;
    const status = events.status[row];
    const comes =
      status < 0xf0 ? channel < 0 || (status & 15) === channel : restComes(take, row, segment.rest);
    if (comes) eventRows.push(row);
  }
  const picked = pickRows(take.notes, noteRows);
  const notes: NoteTable = {
    ...picked,
    id: picked.id.map((id) => id + firstNoteId),
    start: picked.start.map(place),
    end: picked.end.map(place),
  };
  const column = (value: (note: number) => number) => Float64Array.from(noteRows, value);
  return {
    notes,
    events: pickEvents(
      events,
      eventRows,
      Float64Array.from(eventRows, (row) => place(events.tick[row])),
    ),
    endTick: place(Math.min(take.endTick, segment.to === null ? Infinity : segment.to / scale)),
    eventOrder: Float64Array.from(eventRows, (row) => firstOrder + row),
    onOrder: column((note) => firstOrder + pairs.on[note]),
    offOrder: column(
      (note) => firstOrder + (pairs.off[note] === NEVER_RELEASED ? events.length : pairs.off[note]),
    ),
    offKind: Uint8Array.from(noteRows, (note) =>
      pairs.off[note] === NEVER_RELEASED ? 0x80 : events.status[pairs.off[note]] & 0xf0,
    ),
  };
}

function restComes(take: Take, row: number, rest: Segment['rest']): boolean {
  if (rest === 'none') return false;
  if (rest === 'all') return true;
  return (
    !isConductorEvent(take.events, row) &&
    !(take.events.status[row] === 0xff && take.events.data1[row] === META_TRACK_NAME)
  );
}

function joinPieces(pieces: Piece[]): Assembly {
  const concat = (columns: Float64Array[]) => {
    const joined = new Float64Array(columns.reduce((sum, column) => sum + column.length, 0));
    let at = 0;
    for (const column of columns) {
      joined.set(column, at);
      at += column.length;
    }
    return joined;
  };
  const rowOf = new Map<number, number>();
  let row = 0;
  for (const piece of pieces) for (const id of piece.notes.id) rowOf.set(id, row++);
  const joined = joinEvents(pieces.map(({ events, eventOrder }) => ({ events, order: eventOrder })));
  return {
    material: { notes: joinTables(pieces.map((piece) => piece.notes)), events: joined.events },
    eventOrder: joined.order,
    endTick: pieces.reduce((latest, piece) => Math.max(latest, piece.endTick), 0),
    origins: {
      rowOf,
      start: concat(pieces.map((piece) => piece.notes.start)),
      end: concat(pieces.map((piece) => piece.notes.end)),
      onOrder: concat(pieces.map((piece) => piece.onOrder)),
      offOrder: concat(pieces.map((piece) => piece.offOrder)),
      offKind: Uint8Array.from(pieces.flatMap((piece) => Array.from(piece.offKind))),
    },
  };
}
