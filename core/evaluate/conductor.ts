import {
  META,
  META_MARKER,
  META_TEMPO,
  META_TIME_SIGNATURE,
  META_TRACK_NAME,
  createEventBuilder,
  decodeText,
  encodeText,
  isConductorEvent,
  meterMessage,
  payloadOf,
  pickEvents,
  tempoMessage,
  type EventColumns,
} from '../midi';
import { ORDERS_PER_TAKE } from '../assembly';
import { wholeTick } from './eventPlaces';
import { joinEvents, type OrderedEvents, type Take } from '../model';
import { inOrderOfTime } from '../sections';
import { listOf, type Marker, type Session } from '../session';
import { ticksPerQuarter, DEFAULT_MICROSECONDS_PER_QUARTER } from '../time';

/** The name of a marker that has none that can be read. */
const NAMELESS = 'Marker';

export function orderOfTake(session: Session, key: string | undefined): number {
  return Math.max(0, key === undefined ? 0 : session.takes.order.indexOf(key)) * ORDERS_PER_TAKE;
}

export const isNameEvent = (events: EventColumns, row: number): boolean =>
  events.status[row] === META && events.data1[row] === META_TRACK_NAME;

const isMarkerEvent = (events: EventColumns, row: number): boolean =>
  events.status[row] === META && events.data1[row] === META_MARKER;

/**
 * The markers of a session: as a person left them, else as the files have them that brought its tempo and its whole
 * tracks. In order of time.
 */
export function markersOf(session: Session, takes: (key: string) => Take): Marker[] {
  if (session.markers) return inOrderOfTime(session.markers);
  const keys = new Set(session.conductor ? [session.conductor.take] : []);
  for (const { layers } of listOf(session.parts))
    for (const { pieces } of listOf(layers))
      for (const { source, from, at, to, rest } of listOf(pieces))
        if ('take' in source && rest === 'all' && from === 0 && at === 0 && to === null)
          keys.add(source.take);
  const found: Marker[] = [];
  for (const key of keys) {
    const { events, division } = takes(key);
    const scale =
      ticksPerQuarter(session.division, DEFAULT_MICROSECONDS_PER_QUARTER) /
      ticksPerQuarter(division, DEFAULT_MICROSECONDS_PER_QUARTER);
    for (let row = 0; row < events.length; row++) {
      if (!isMarkerEvent(events, row)) continue;
      const name = decodeText(payloadOf(events, row)).trim().slice(0, 200) || NAMELESS;
      const tick = Math.round(events.tick[row] * scale);
      if (found.some((marker) => marker.tick === tick && marker.name === name)) continue;
      found.push({ id: `${key.slice(-8)}:${row}`, tick, name });
    }
  }
  return inOrderOfTime(found);
}

/**
 * Which of the events that speak for the whole session are written from the session, since they are no longer those
 * of the file.
 */
export function writtenAnew(session: Session, takes: (key: string) => Take) {
  const take = session.conductor ? takes(session.conductor.take) : null;
  const isSame = (one: readonly object[] | undefined, other: readonly object[]) =>
    one === other || JSON.stringify(one) === JSON.stringify(other);
  return {
    tempos: !isSame(take?.tempos, session.tempos),
    meters: !isSame(take?.meters, session.meters),
    markers: session.markers !== undefined,
  };
}

type Anew = ReturnType<typeof writtenAnew>;

/** A test of the events that may not be written, since the session writes them itself. */
export function replacedBy(anew: Anew, session: Session): (events: EventColumns, row: number) => boolean {
  // Without a conductor the parts must bring nothing of the kind.
  if (!session.conductor) return isConductorEvent;
  return (events, row) => {
    if (events.status[row] !== META) return false;
    const type = events.data1[row];
    return (
      (type === META_TEMPO && anew.tempos) ||
      (type === META_TIME_SIGNATURE && anew.meters) ||
      (type === META_MARKER && anew.markers)
    );
  };
}

/**
 * The events that speak for the whole session: from the take that carries them, with what the session has otherwise
 * in their place.
 */
export function conductorOf(
  session: Session,
  takes: (key: string) => Take,
): { list: OrderedEvents; endTick: number } {
  const anew = writtenAnew(session, takes);
  if (!session.conductor) return { list: writtenEvents(session, anew, () => 0), endTick: 0 };
  const take = takes(session.conductor.take);
  const { events } = take;
  const isReplaced = replacedBy(anew, session);
  const rows: number[] = [];
  for (let row = 0; row < events.length; row++) {
    if (events.status[row] < 0xf0) continue;
    const wanted =
      session.conductor.events === 'all' || isConductorEvent(events, row) || isNameEvent(events, row);
    if (wanted && !isReplaced(events, row)) rows.push(row);
  }
  const firstOrder = orderOfTake(session, take.key);
  const kept = {
    events: pickEvents(events, rows),
    order: Float64Array.from(rows, (row) => firstOrder + row),
  };
  const nameRow = rows.findLast((row) => events.tick[row] === 0 && isNameEvent(events, row)) ?? -1;
  const written = writtenEvents(session, anew, (share) => firstOrder + nameRow + share);
  return {
    list: written.events.length > 0 ? joinEvents([kept, written]) : kept,
    endTick: session.conductor.events === 'all' ? take.endTick : 0,
  };
}

/** Events written from the session; `orderAt` gives the place of one among those of its tick, of a share of 1. */
function writtenEvents(session: Session, anew: Anew, orderAt: (share: number) => number): OrderedEvents {
  const all = [
    ...(anew.meters ? session.meters : []).map((meter) => ({ tick: meter.tick, ...meterMessage(meter) })),
    ...(anew.tempos ? session.tempos : []).map((tempo) => ({ tick: tempo.tick, ...tempoMessage(tempo) })),
    ...(session.markers ?? []).map(({ tick, name }) => ({
      tick,
      type: META_MARKER,
      bytes: encodeText(name),
    })),
  ].sort((a, b) => a.tick - b.tick);
  const builder = createEventBuilder();
  // Ticks of a map that follows a performance are no whole numbers; here as in every track they become such.
  for (const { tick, type, bytes } of all) builder.add(wholeTick(tick), META, type, 0, bytes);
  const events = builder.build();
  return {
    events,
    order: Float64Array.from(events.tick, (_, index) => orderAt((index + 1) / (all.length + 1))),
  };
}
