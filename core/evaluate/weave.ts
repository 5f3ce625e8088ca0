import type { Assembly } from '../assembly';
import type { EventColumns } from '../midi';
import type { Material, OrderedEvents } from '../model';
import { joinPayloads } from './payloads';
import { orderByTick } from './orderByTick';

/** One part's share of a track: what it was, what became of it, and where its events rank among other parts'. */
export interface WovenPart {
  assembly: Assembly;
  material: Material;
  firstOrder: number;
}

/** Columns being filled: events, and the order of each among those of its tick: its old place, or before or after all others. */
interface Loom {
  length: number;
  tick: Float64Array;
  status: Uint8Array;
  data1: Uint8Array;
  data2: Uint8Array;
  /** Numbers of the payloads, by row: few events have one, and no note. */
  payloads: Map<number, number>;
  order: Float64Array;
}

/**
 * Turns material back into the events of one track, with whole ticks: the one place where ticks and velocities are
 * rounded. An untouched note keeps its place among the events at its tick. A moved release comes first at its tick and
 * a moved stroke last, so that a note never ends the next one of its pitch and starts under the controllers in force.
 * `loose` are events of no part (tempo, meter, markers), already in whole ticks.
 */
export function weave(parts: readonly WovenPart[], loose: readonly OrderedEvents[] = []): EventColumns {
  const lists = [...loose.map(({ events }) => events), ...parts.map(({ material }) => material.events)];
  const notes = parts.reduce((sum, { material }) => sum + material.notes.length, 0);
  const loom = createLoom(lists.reduce((sum, { length }) => sum + length, 2 * notes));
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

function createLoom(size: number): Loom {
  return {
    length: 0,
    tick: new Float64Array(size),
    status: new Uint8Array(size),
    data1: new Uint8Array(size),
    data2: new Uint8Array(size),
    payloads: new Map(),
    order: new Float64Array(size),
  };
}

/** Beyond every old place: what a moved release comes before by, and a moved stroke after. */
const BEYOND = 2 ** 52;

const wholeTick = (tick: number) => Math.max(0, Math.round(tick));

function addEvents(loom: Loom, events: EventColumns, firstPayload: number, orderOf: (row: number) => number) {
  let at = loom.length;
  for (let row = 0; row < events.length; row++, at++) {
    loom.tick[at] = wholeTick(events.tick[row]);
    loom.status[at] = events.status[row];
    loom.data1[at] = events.data1[row];
    loom.data2[at] = events.data2[row];
    if (events.payload[row] !== 0) loom.payloads.set(at, firstPayload + events.payload[row]);
    loom.order[at] = orderOf(row);
  }
  loom.length = at;
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
  const { tick, status, data1, data2, order } = loom;
  const count = notes.length;
  const [strokes, releases] = [loom.length, loom.length + count];
  for (let note = 0; note < count; note++) {
    const origin = index.rowOf(id[note]);
    const played = origin >= 0;
    const sameStart = played && playedStart[origin] === starts[note];
    const sameEnd = played && playedEnd[origin] === ends[note];
    const start = wholeTick(starts[note]);
    let end = wholeTick(ends[note]);
    // A note played with no length at all is left as it was; any that was moved lasts at least a tick.
    if (!(sameStart && sameEnd)) end = Math.max(end, start + 1);
    const on = strokes + note;
    tick[on] = start;
    status[on] = 0x90 | channels[note];
    data1[on] = pitches[note];
    data2[on] = Math.min(127, Math.max(1, Math.round(velocities[note])));
    order[on] = firstOrder + (played ? onOrder[origin] : 0) + (sameStart ? 0 : BEYOND);
    const off = releases + note;
    const kind = played ? offKind[origin] : 0x80;
    tick[off] = end;
    status[off] = kind | channels[note];
    data1[off] = pitches[note];
    data2[off] = kind === 0x90 ? 0 : release[note];
    order[off] = firstOrder + (played ? offOrder[origin] : 0) - (sameEnd ? 0 : BEYOND);
  }
  loom.length += 2 * count;
}

function sorted(loom: Loom, payloads: Pick<EventColumns, 'payloadStart' | 'bytes'>): EventColumns {
  const { order } = loom;
  const rows = orderByTick(loom.tick, (a, b) => order[a] - order[b] || a - b);
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
  const { tick: ticks, status: statuses, data1: firsts, data2: seconds } = loom;
  for (let at = 0; at < length; at++) {
    const row = rows[at];
    tick[at] = ticks[row];
    status[at] = statuses[row];
    data1[at] = firsts[row];
    data2[at] = seconds[row];
    // Only events of no channel have a payload.
    if (status[at] >= 0xf0) payload[at] = loom.payloads.get(row) ?? 0;
  }
  return made;
}
