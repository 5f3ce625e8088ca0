import { pickEvents, type EventColumns } from '../midi';
import { mergeOrder, type Material, type NoteTable } from '../model';

/** The stretch of time and the channels that touched notes take up; null when none is touched. */
export interface TouchedSpan {
  from: number;
  to: number;
  channels: Set<number>;
}

export function spanOf(notes: NoteTable, touched: Uint8Array): TouchedSpan | null {
  const span: TouchedSpan = { from: Infinity, to: -Infinity, channels: new Set() };
  for (let row = 0; row < notes.length; row++) {
    if (touched[row] === 0) continue;
    span.from = Math.min(span.from, notes.start[row]);
    span.to = Math.max(span.to, notes.end[row]);
    span.channels.add(notes.channel[row]);
  }
  return span.to === -Infinity ? null : span;
}

/**
 * The controllers, bends and pressures that lie within a span, moved by `place`; others stay. Programs and events of no
 * channel are set-up rather than playing and stay too.
 */
export function moveEvents(
  events: EventColumns,
  span: TouchedSpan,
  place: (tick: number) => number,
): EventColumns {
  const tick = events.tick.slice();
  let moved = false;
  for (let row = 0; row < events.length; row++) {
    const kind = events.status[row] >> 4;
    const plays = kind === 0xa || kind === 0xb || kind === 0xd || kind === 0xe;
    if (!plays || !span.channels.has(events.status[row] & 15)) continue;
    if (events.tick[row] < span.from || events.tick[row] > span.to) continue;
    tick[row] = Math.max(0, place(events.tick[row]));
    moved = true;
  }
  if (!moved) return events;
  const order = mergeOrder(events.length, (a, b) => tick[a] - tick[b]);
  return pickEvents({ ...events, tick }, order);
}

/** Material with the events of a span moved along. */
export function withEventsMoved(
  material: Material,
  notes: NoteTable,
  span: TouchedSpan,
  place: (tick: number) => number,
): Material {
  return { notes, events: moveEvents(material.events, span, place) };
}
