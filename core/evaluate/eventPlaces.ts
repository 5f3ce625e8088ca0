import type { Assembly } from '../assembly';
import { payloadOf, type EventColumns } from '../midi';
import type { Material, NoteTable } from '../model';

/** A tick as it is written. */
export const wholeTick = (tick: number): number => Math.max(0, Math.round(tick));

/** Where the strokes and releases of notes come at their ticks, and those ticks as they are written. */
export interface NotePlaces {
  on: Float64Array;
  off: Float64Array;
  start: Float64Array;
  end: Float64Array;
}

/**
 * The same that weaving does with notes: what was not moved keeps its place, a moved release comes before all else at
 * its tick and a moved stroke after.
 */
export function notePlaces({ origins }: Assembly, notes: NoteTable): NotePlaces {
  const { index, start: playedStart, end: playedEnd, onOrder, offOrder } = origins;
  const [on, off] = [new Float64Array(notes.length), new Float64Array(notes.length)];
  const [start, end] = [notes.start.map(wholeTick), notes.end.map(wholeTick)];
  for (let row = 0; row < notes.length; row++) {
    const origin = index.rowOf(notes.id[row]);
    const sameStart = origin >= 0 && playedStart[origin] === notes.start[row];
    const sameEnd = origin >= 0 && playedEnd[origin] === notes.end[row];
    if (!(sameStart && sameEnd)) end[row] = Math.max(end[row], start[row] + 1);
    on[row] = sameStart ? onOrder[origin] : Infinity;
    off[row] = sameEnd ? offOrder[origin] : -Infinity;
  }
  return { on, off, start, end };
}

/**
 * How far apart things that are new stand from one another among what was there: room for a thousand of them between
 * any two.
 */
const SMALL = 2 ** -10;

/**
 * Where each event of some material comes among what stands at its tick. One that was there before the steps keeps
 * its place among the notes and the other events, whatever a step changed; one that is new comes after the releases
 * there and before the strokes, as far as the order of the events among themselves lets it.
 */
export function eventPlaces(assembly: Assembly, { notes, events }: Material): Float64Array {
  const former = assembly.material.events;
  if (events === former) return assembly.eventOrder;
  const places = formerPlaces(former, assembly.eventOrder, events);
  if (!places.some(Number.isNaN)) return places;
  const marks = marksAt(ticksOfNew(events, places), notes, assembly);
  for (let first = 0, end: number; first < events.length; first = end) {
    const tick = wholeTick(events.tick[first]);
    let isKnown = true;
    for (end = first; end < events.length && wholeTick(events.tick[end]) === tick; end++)
      if (Number.isNaN(places[end])) isKnown = false;
    if (!isKnown) placeNew(places, first, end, marks.get(tick));
  }
  return places;
}

/**
 * Places of the events that were there before, NaN for the others: at each tick those of one content are taken in
 * their order.
 */
function formerPlaces(former: EventColumns, order: Float64Array, events: EventColumns): Float64Array {
  const places = new Float64Array(events.length).fill(NaN);
  let start = 0;
  for (let first = 0, end: number; first < events.length; first = end) {
    const tick = events.tick[first];
    for (end = first + 1; end < events.length && events.tick[end] === tick;) end++;
    while (start < former.length && former.tick[start] < tick) start++;
    let stop = start;
    while (stop < former.length && former.tick[stop] === tick) stop++;
    if (stop > start) matchAt(former, order, [start, stop], events, [first, end], places);
    start = stop;
  }
  return places;
}

/**
 * Pairs what stands at one tick before and after: mostly the next one is the one, else the first alike that is left.
 */
function matchAt(
  former: EventColumns,
  order: Float64Array,
  [start, stop]: readonly [number, number],
  events: EventColumns,
  [first, end]: readonly [number, number],
  places: Float64Array,
): void {
  let next = start;
  let left: Map<string, number[]> | null = null;
  for (let row = first; row < end; row++) {
    if (!left && next < stop && isSameEvent(former, next, events, row)) {
      places[row] = order[next++];
      continue;
    }
    left ??= rowsByContent(former, next, stop);
    const found = left.get(contentOf(events, row))?.shift();
    if (found !== undefined) places[row] = order[found];
  }
}

function rowsByContent(events: EventColumns, from: number, to: number): Map<string, number[]> {
  const rows = new Map<string, number[]>();
  for (let row = from; row < to; row++) {
    const content = contentOf(events, row);
    const list = rows.get(content);
    if (list) list.push(row);
    else rows.set(content, [row]);
  }
  return rows;
}

function contentOf(events: EventColumns, row: number): string {
  const bytes = events.payload[row] === 0 ? '' : payloadOf(events, row).join();
  return `${events.status[row]} ${events.data1[row]} ${events.data2[row]} ${bytes}`;
}

function isSameEvent(a: EventColumns, row: number, b: EventColumns, other: number): boolean {
  if (a.status[row] !== b.status[other] || a.data1[row] !== b.data1[other] || a.data2[row] !== b.data2[other])
    return false;
  if (a.payload[row] === 0 && b.payload[other] === 0) return true;
  if (a.bytes === b.bytes && a.payloadStart === b.payloadStart) return a.payload[row] === b.payload[other];
  return contentOf(a, row) === contentOf(b, other);
}

/** Where the first stroke and the last release stand that were left at a tick; infinite where there are none. */
interface Marks {
  stroke: number;
  release: number;
}

function ticksOfNew(events: EventColumns, places: Float64Array): Map<number, Marks> {
  const marks = new Map<number, Marks>();
  for (let row = 0; row < events.length; row++)
    if (Number.isNaN(places[row]))
      marks.set(wholeTick(events.tick[row]), { stroke: Infinity, release: -Infinity });
  return marks;
}

function marksAt(marks: Map<number, Marks>, notes: NoteTable, { origins }: Assembly): Map<number, Marks> {
  const { index, start, end, onOrder, offOrder } = origins;
  for (let row = 0; row < notes.length; row++) {
    const [on, off] = [marks.get(wholeTick(notes.start[row])), marks.get(wholeTick(notes.end[row]))];
    if (!on && !off) continue;
    const origin = index.rowOf(notes.id[row]);
    if (origin < 0) continue;
    if (on && start[origin] === notes.start[row]) on.stroke = Math.min(on.stroke, onOrder[origin]);
    if (off && end[origin] === notes.end[row]) off.release = Math.max(off.release, offOrder[origin]);
  }
  return marks;
}

/** Gives what is new at one tick its places, between those of the events before and after it. */
function placeNew(places: Float64Array, first: number, end: number, marks: Marks | undefined): void {
  const { stroke, release } = marks ?? { stroke: Infinity, release: -Infinity };
  let before = -Infinity;
  for (let row = first; row < end; row++) {
    if (!Number.isNaN(places[row])) {
      before = places[row];
      continue;
    }
    let next = row + 1;
    while (next < end && Number.isNaN(places[next])) next++;
    const after = next < end ? places[next] : Infinity;
    const count = next - row;
    // Just before the first stroke, else just behind the last release, else at the side of the events that were there.
    const wanted = Number.isFinite(stroke) ? stroke - 0.5 : Number.isFinite(release) ? release + 0.5 : NaN;
    const low = Number.isFinite(before) ? before : Number.isFinite(after) ? after - 1 : -1;
    const high = Number.isFinite(after) ? after : low + 1;
    const at =
      Number.isNaN(wanted) || wanted <= before ? low : wanted >= after ? high - SMALL * (count + 1) : wanted;
    for (let each = 0; each < count; each++) places[row + each] = at + SMALL * (each + 1);
    before = places[next - 1];
    row = next - 1;
  }
}
