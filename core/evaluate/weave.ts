import type { Assembly } from '../assembly';
import type { EventColumns } from '../midi';
import type { Material, OrderedEvents } from '../model';
import { eventPlaces, wholeTick } from './eventPlaces';
import { joinPayloads } from './payloads';
import { AFTER, BEFORE, EXTRA, IN_PLACE, createLoom, rowBehind, rowFor, takenOut, type Loom } from './loom';
import { createTies } from './ties';

/** One part's share of a track: what it was, what became of it, and where its events rank among other parts'. */
export interface WovenPart {
  assembly: Assembly;
  material: Material;
  firstOrder: number;
  /** Where each event comes among what stands at its tick; without it as `eventPlaces` finds it. */
  order?: Float64Array;
}

/** Where the strokes and releases of a part's notes came to lie among the events, by row of its notes. */
export interface WovenRows {
  on: Uint32Array;
  off: Uint32Array;
}

/**
 * Turns material back into the events of one track, with whole ticks: the one place where ticks and velocities are
 * rounded. What was not touched keeps its place among what stands at its tick, whatever else changed there
 * (`eventPlaces`). A moved release comes first at its tick and a moved stroke last, so that a note never ends the
 * next one of its pitch and starts under the controllers in force. Moved strokes of one pitch at one tick come in the
 * order of their ends, so that a reader that pairs first-in first-out gives each its own. `loose` are events of no
 * part (tempo, meter, markers), already in whole ticks.
 */
export function weave(parts: readonly WovenPart[], loose: readonly OrderedEvents[] = []): EventColumns {
  const { loom, payloads } = woven(parts, loose);
  return takenOut(loom, payloads).events;
}

/** One part woven by itself, and where its notes came to lie. */
export function weaveTracked(part: WovenPart): { events: EventColumns; rows: WovenRows } {
  const { length } = part.material.notes;
  const rows = { on: new Uint32Array(length), off: new Uint32Array(length) };
  const { loom, payloads } = woven([part], [], rows);
  const { events, placeOf } = takenOut(loom, payloads, true);
  return {
    events,
    rows: { on: rows.on.map((row) => placeOf[row]), off: rows.off.map((row) => placeOf[row]) },
  };
}

function woven(parts: readonly WovenPart[], loose: readonly OrderedEvents[], rows?: WovenRows) {
  const lists = [...loose.map(({ events }) => events), ...parts.map(({ material }) => material.events)];
  const notes = parts.reduce((sum, { material }) => sum + material.notes.length, 0);
  const loom = createLoom(
    parts.length === 1 ? placesOf(parts[0]) : 0,
    lists.reduce((sum, { length }) => sum + length, 2 * notes),
  );
  const payloads = joinPayloads(lists);
  loose.forEach(({ events, order }, list) => {
    addEvents(loom, events, payloads.first[list], (row) => order[row]);
  });
  parts.forEach((part, index) => {
    const { firstOrder, assembly, material } = part;
    const order = part.order ?? eventPlaces(assembly, material);
    addEvents(loom, material.events, payloads.first[loose.length + index], (row) => firstOrder + order[row]);
    addNotes(loom, part, rows);
  });
  return { loom, payloads };
}

/** How many places the part has, where they are not many more than its rows; else 0. */
function placesOf({ assembly: { eventOrder, origins, places } }: WovenPart): number {
  const most = 4 * (eventOrder.length + 2 * origins.onOrder.length) + 64;
  return places < most ? places : 0;
}

function addEvents(loom: Loom, events: EventColumns, firstPayload: number, orderOf: (row: number) => number) {
  for (let row = 0; row < events.length; row++) {
    const at = rowFor(loom, orderOf(row));
    loom.tick[at] = wholeTick(events.tick[row]);
    const bytes = IN_PLACE | (events.status[row] << 16) | (events.data1[row] << 8) | events.data2[row];
    const payload = events.payload[row];
    loom.bytes[at] =
      payload === 0 ? bytes : EXTRA + loom.extras.push({ bytes, payload: firstPayload + payload }) - 1;
  }
}

function addNotes(loom: Loom, { assembly, material, firstOrder }: WovenPart, rows?: WovenRows) {
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
    const on = played ? rowFor(loom, firstOrder + onOrder[origin]) : rowBehind(loom, firstOrder);
    loom.tick[on] = start;
    const stroke = Math.min(127, Math.max(1, Math.round(velocities[note])));
    const struck = ((0x90 | channels[note]) << 16) | (pitches[note] << 8) | stroke;
    loom.bytes[on] = (sameStart ? IN_PLACE : AFTER) | struck;
    ties.stroke(on, start, end, struck >> 8, !(sameStart && sameEnd), note);
    const off = played ? rowFor(loom, firstOrder + offOrder[origin]) : rowBehind(loom, firstOrder);
    const kind = played ? offKind[origin] : 0x80;
    loom.tick[off] = end;
    const lift = kind === 0x90 ? 0 : release[note];
    loom.bytes[off] =
      (sameEnd ? IN_PLACE : BEFORE) | ((kind | channels[note]) << 16) | (pitches[note] << 8) | lift;
    if (rows) [rows.on[note], rows.off[note]] = [on, off];
  }
  ties.settle(loom, rows?.on);
}
