import { createEventBuilder, payloadOf, pickEvents, type EventBuilder, type EventColumns } from '../midi';
import type { Material } from '../model';
import type { Assembly } from './assemble';
import type { OrderedEvents } from './joinEvents';

/** One part's share of a track: what it was, what became of it, and where its events rank among other parts'. */
export interface WovenPart {
  assembly: Assembly;
  material: Material;
  firstOrder: number;
}

/** Columns being filled: events, whether each was moved (-1 release, 1 stroke, 0 not), and its old place. */
interface Loom {
  builder: EventBuilder;
  rank: number[];
  order: number[];
}

/**
 * Turns material back into the events of one track, with whole ticks: the one place where ticks and velocities are
 * rounded. An untouched note keeps its place among the events at its tick. A moved release comes first at its tick and
 * a moved stroke last, so that a note never ends the next one of its pitch and starts under the controllers in force.
 * `loose` are events of no part (tempo, meter, markers), already in whole ticks.
 */
export function weave(parts: readonly WovenPart[], loose: readonly OrderedEvents[] = []): EventColumns {
  const size = parts.reduce(
    (sum, { material }) => sum + material.events.length + 2 * material.notes.length,
    0,
  );
  const loom: Loom = { builder: createEventBuilder(size), rank: [], order: [] };
  for (const { events, order } of loose) {
    for (let row = 0; row < events.length; row++) addEvent(loom, events, row, order[row]);
  }
  for (const part of parts) {
    const { events } = part.material;
    const unchanged = events === part.assembly.material.events;
    for (let row = 0; row < events.length; row++) {
      addEvent(loom, events, row, part.firstOrder + (unchanged ? part.assembly.eventOrder[row] : row));
    }
    addNotes(loom, part);
  }
  return sorted(loom);
}

function addEvent(loom: Loom, events: EventColumns, row: number, order: number) {
  const payload = events.payload[row] === 0 ? undefined : payloadOf(events, row);
  const tick = Math.max(0, Math.round(events.tick[row]));
  loom.builder.add(tick, events.status[row], events.data1[row], events.data2[row], payload);
  loom.rank.push(0);
  loom.order.push(order);
}

function addNotes(loom: Loom, { assembly, material, firstOrder }: WovenPart) {
  const { notes } = material;
  const { origins } = assembly;
  for (let note = 0; note < notes.length; note++) {
    const origin = origins.rowOf.get(notes.id[note]) ?? -1;
    const played = origin >= 0;
    const sameStart = played && origins.start[origin] === notes.start[note];
    const sameEnd = played && origins.end[origin] === notes.end[note];
    const start = Math.max(0, Math.round(notes.start[note]));
    let end = Math.round(notes.end[note]);
    // A note played with no length at all is left as it was; any that was moved lasts at least a tick.
    if (!(sameStart && sameEnd)) end = Math.max(end, start + 1);
    const channel = notes.channel[note];
    const velocity = Math.min(127, Math.max(1, Math.round(notes.velocity[note])));
    loom.builder.add(start, 0x90 | channel, notes.pitch[note], velocity);
    loom.rank.push(sameStart ? 0 : 1);
    loom.order.push(firstOrder + (played ? origins.onOrder[origin] : 0));
    const offKind = played ? origins.offKind[origin] : 0x80;
    loom.builder.add(end, offKind | channel, notes.pitch[note], offKind === 0x90 ? 0 : notes.release[note]);
    loom.rank.push(sameEnd ? 0 : -1);
    loom.order.push(firstOrder + (played ? origins.offOrder[origin] : 0));
  }
}

function sorted({ builder, rank, order }: Loom): EventColumns {
  const events = builder.build();
  const { tick } = events;
  const rows = new Uint32Array(events.length);
  for (let row = 0; row < rows.length; row++) rows[row] = row;
  rows.sort((a, b) => tick[a] - tick[b] || rank[a] - rank[b] || order[a] - order[b] || a - b);
  return pickEvents(events, rows);
}
