import type { Assembly } from '../assembly';
import type { EventColumns } from '../midi';
import type { Material, OrderedEvents } from '../model';
import { joinPayloads } from './payloads';
import { orderByTick } from './orderByTick';
import { createTies } from './ties';

/** One part's share of a track: what it was, what became of it, and where its events rank among other parts'. */
export interface WovenPart {
  assembly: Assembly;
  material: Material;
  firstOrder: number;
}

/**
 * Columns being filled: events, and the order of each among those of its tick: its old place, or before or after all others. Rows of one part lie
 * where they were played as far as they can, so that most are in order already; a row that holds nothing has the bytes 0.
 */
interface Loom {
  /** Rows below this are places in what was played. */
  places: number;
  /** The next row of those behind them. */
  next: number;
  tick: Float64Array;
  /** Status, first and second data byte of a row as one number. */
  bytes: Uint32Array;
  /** Numbers of the payloads, by row: few events have one, and no note. */
  payloads: Map<number, number>;
  order: Float64Array;
}

/**
 * Turns material back into the events of one track, with whole ticks: the one place where ticks and velocities are
 * rounded. An untouched note keeps its place among the events at its tick. A moved release comes first at its tick and
 * a moved stroke last, so that a note never ends the next one of its pitch and starts under the controllers in force. Moved strokes of one pitch at one tick
 * come in the order of their ends, so that a reader that pairs first-in first-out gives each its own.
 * `loose` are events of no part (tempo, meter, markers), already in whole ticks.
 */
export function weave(parts: readonly WovenPart[], loose: readonly OrderedEvents[] = []): EventColumns {
  const lists = [...loose.map(({ events }) => events), ...parts.map(({ material }) => material.events)];
  const notes = parts.reduce((sum, { material }) => sum + material.notes.length, 0);
  const loom = createLoom(
    parts.length === 1 && loose.length === 0 ? placesOf(parts[0]) : 0,
    lists.reduce((sum, { length }) => sum + length, 2 * notes),
  );
  const payloads = joinPayloads(lists);
  loose.forEach(({ events, order }, list) => {
    addEvents(loom, events, payloads.first[list], (row) => order[row]);
  });
  parts.forEach((part, index) => {
    const { events } = part.material;
    const { firstOrder, assembly } = part;
    const unchanged = events === assembly.material.events;
    const orderOf = unchanged
      ? (row: number) => firstOrder + assembly.eventOrder[row]
      : (row: number) => firstOrder + row;
    addEvents(loom, events, payloads.first[loose.length + index], orderOf);
    addNotes(loom, part);
  });
  return sorted(loom, payloads);
}

function createLoom(places: number, count: number): Loom {
  const size = places + count;
  return {
    places,
    next: places,
    tick: new Float64Array(size),
    bytes: new Uint32Array(size),
    payloads: new Map(),
    order: new Float64Array(size),
  };
}

/** Beyond every old place: what a moved release comes before by, and a moved stroke after. */
const BEYOND = 2 ** 52;

/** How many places the part's orders count, where that is not many more than it has rows; else 0. */
function placesOf({ assembly }: WovenPart): number {
  const { eventOrder, origins } = assembly;
  const most = 4 * (eventOrder.length + 2 * origins.onOrder.length) + 64;
  let last = -1;
  for (const column of [eventOrder, origins.onOrder, origins.offOrder])
    for (let row = 0; row < column.length; row++) if (column[row] > last) last = column[row];
  return last < most ? last + 1 : 0;
}

/** The row for something of this order: its place, if there is one and it is free. */
const rowFor = (loom: Loom, order: number) =>
  order >= 0 && order < loom.places && loom.bytes[order] === 0 ? order : loom.next++;

const wholeTick = (tick: number) => Math.max(0, Math.round(tick));

function addEvents(loom: Loom, events: EventColumns, firstPayload: number, orderOf: (row: number) => number) {
  for (let row = 0; row < events.length; row++) {
    const order = orderOf(row);
    const at = rowFor(loom, order);
    loom.tick[at] = wholeTick(events.tick[row]);
    loom.bytes[at] = (events.status[row] << 16) | (events.data1[row] << 8) | events.data2[row];
    if (events.payload[row] !== 0) loom.payloads.set(at, firstPayload + events.payload[row]);
    loom.order[at] = order;
  }
}

function addNotes(loom: Loom, { assembly, material, firstOrder }: WovenPart) {
  const { notes } = material;
  const { index, start: playedStart, end: playedEnd, onOrder, offOrder, offKind } = assembly.origins;
  const {
    id,
    start: starts,
    end: ends,
    channel: channels,
    pitch: pitches,
    velocity: velocities,
    release,
  } = notes;
  const { tick, bytes, order } = loom;
  const ties = createTies();
  const count = notes.length;
  for (let note = 0; note < count; note++) {
    const origin = index.rowOf(id[note]);
    const played = origin >= 0;
    const sameStart = played && playedStart[origin] === starts[note];
    const sameEnd = played && playedEnd[origin] === ends[note];
    const start = wholeTick(starts[note]);
    let end = wholeTick(ends[note]);
    // A note played with no length at all is left as it was; any that was moved lasts at least a tick.
    if (!(sameStart && sameEnd)) end = Math.max(end, start + 1);
    const onPlace = firstOrder + (played ? onOrder[origin] : 0);
    const on = rowFor(loom, played ? onPlace : -1);
    tick[on] = start;
    const stroke = Math.min(127, Math.max(1, Math.round(velocities[note])));
    bytes[on] = ((0x90 | channels[note]) << 16) | (pitches[note] << 8) | stroke;
    order[on] = onPlace + (sameStart ? 0 : BEYOND);
    ties.stroke(on, start, end, bytes[on] >> 8, !(sameStart && sameEnd));
    const offPlace = firstOrder + (played ? offOrder[origin] : 0);
    const off = rowFor(loom, played ? offPlace : -1);
    const kind = played ? offKind[origin] : 0x80;
    tick[off] = end;
    const lift = kind === 0x90 ? 0 : release[note];
    bytes[off] = ((kind | channels[note]) << 16) | (pitches[note] << 8) | lift;
    order[off] = offPlace - (sameEnd ? 0 : BEYOND);
  }
  ties.settle(order);
}

/** The rows that hold something. */
function rowsIn({ bytes, next }: Loom): Uint32Array {
  const rows = new Uint32Array(next);
  let count = 0;
  for (let row = 0; row < next; row++) if (bytes[row] !== 0) rows[count++] = row;
  return rows.subarray(0, count);
}

function sorted(loom: Loom, payloads: Pick<EventColumns, 'payloadStart' | 'bytes'>): EventColumns {
  const rows = orderByTick(rowsIn(loom), loom.tick, loom.order);
  const { length } = rows;
  const made = {
    length,
    tick: new Float64Array(length),
    status: new Uint8Array(length),
    data1: new Uint8Array(length),
    data2: new Uint8Array(length),
    payload: new Uint32Array(length),
    payloadStart: payloads.payloadStart,
    bytes: payloads.bytes,
  };
  const { tick, status, data1, data2, payload } = made;
  const { tick: ticks, bytes } = loom;
  for (let at = 0; at < length; at++) {
    const row = rows[at];
    tick[at] = ticks[row];
    const packed = bytes[row];
    status[at] = packed >> 16;
    data1[at] = packed >> 8;
    data2[at] = packed;
    // Only events of no channel have a payload.
    if (packed >= 0xf00000) payload[at] = loom.payloads.get(row) ?? 0;
  }
  return made;
}
