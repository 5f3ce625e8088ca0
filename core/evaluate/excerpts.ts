import {
  META,
  META_MARKER,
  META_TEMPO,
  META_TIME_SIGNATURE,
  createEventBuilder,
  isConductorEvent,
  pickEvents,
  type EventColumns,
} from '../midi';
import { withColumns, type NoteTable, type OrderedEvents, type Take } from '../model';
import type { Session } from '../session';
import { createTimeline, effectiveMeters, effectiveTempos, type Timeline } from '../time';
import type { Chosen } from './chosenParts';
import { isNameEvent, markersOf } from './conductor';
import type { WovenPart } from './weave';

/**
 * The session as some bars of it are written by themselves: tempo, meter and markers from where they begin, at its
 * start. The session itself where all of it is.
 */
export function sessionOfExcerpt({ session, excerpt }: Chosen, takes: (key: string) => Take): Session {
  if (!excerpt) return session;
  const { from, to } = excerpt;
  /** What holds at the start, and what changes within. */
  const within = <T extends { tick: number }>(changes: readonly T[]): T[] => {
    const held = changes.findLast(({ tick }) => tick <= from) ?? changes[0];
    const later = changes.filter(({ tick }) => tick > from && tick < to);
    return [{ ...held, tick: 0 }, ...later.map((each): T => ({ ...each, tick: each.tick - from }))];
  };
  const markers = markersOf(session, takes).filter(({ tick }) => tick >= from && tick < to);
  return {
    ...session,
    conductor: null,
    tempos: within(effectiveTempos(session.tempos)),
    meters: within(effectiveMeters(session.meters)),
    markers: markers.map((marker) => ({ ...marker, tick: marker.tick - from })),
  };
}

const [META_SMPTE_OFFSET, META_KEY] = [0x54, 0x59];
/** What is written from the session, or means the whole file alone. */
const NOT_CARRIED = new Set([META_TEMPO, META_TIME_SIGNATURE, META_MARKER, META_SMPTE_OFFSET]);

/**
 * What else speaks for the whole session within some bars: texts and messages at their places, and at the start the key
 * that holds there and the name.
 */
export function carriedAlong({ session, excerpt }: Chosen, takes: (key: string) => Take): OrderedEvents {
  const rows: number[] = [];
  const ticks: number[] = [];
  if (!excerpt || !session.conductor)
    return { events: createEventBuilder(0).build(), order: new Float64Array(0) };
  const { from, to } = excerpt;
  const { events } = takes(session.conductor.take);
  const isKey = (row: number) => events.status[row] === META && events.data1[row] === META_KEY;
  const key = Array.from(events.tick.keys()).findLast((row) => isKey(row) && events.tick[row] <= from);
  for (let row = 0; row < events.length; row++) {
    const isMeta = events.status[row] === META;
    if (events.status[row] < 0xf0 || (isMeta && NOT_CARRIED.has(events.data1[row]))) continue;
    const isAll = session.conductor.events === 'all';
    // Where the track makes a part too, that part has its name.
    const isName = isAll && isNameEvent(events, row);
    if (!isAll && !isConductorEvent(events, row)) continue;
    const isWithin = events.tick[row] >= from && events.tick[row] < to;
    if (!isName && row !== key && !isWithin) continue;
    rows.push(row);
    ticks.push(Math.max(0, events.tick[row] - from));
  }
  return {
    events: { ...pickEvents(events, rows), tick: Float64Array.from(ticks) },
    order: Float64Array.from(rows, (row) => row + 1),
  };
}

/** What is woven of a part, with the start of the bars that are written alone at the start. */
export function fromItsStart(share: WovenPart, { excerpt }: Chosen): WovenPart {
  if (!excerpt || excerpt.from === 0) return share;
  const { from } = excerpt;
  const back = (ticks: Float64Array) => ticks.map((tick) => Math.max(0, tick - from));
  const moved = <M extends { notes: NoteTable; events: EventColumns }>(material: M): M => ({
    ...material,
    notes: withColumns(material.notes, { start: back(material.notes.start), end: back(material.notes.end) }),
    events: { ...material.events, tick: back(material.events.tick) },
  });
  const { assembly } = share;
  return {
    ...share,
    assembly: {
      ...assembly,
      material: moved(assembly.material),
      endTick: Math.max(0, assembly.endTick - from),
      origins: {
        ...assembly.origins,
        start: back(assembly.origins.start),
        end: back(assembly.origins.end),
      },
    },
    material: moved(share.material),
  };
}

/** The time of what is written: of the excerpt, and in `times` as many ticks. */
export function timelineWritten(chosen: Chosen, takes: (key: string) => Take, times: number): Timeline {
  const { division, tempos, meters } = sessionOfExcerpt(chosen, takes);
  const finer = <T extends { tick: number }>(changes: readonly T[]): T[] =>
    changes.map((each) => ({ ...each, tick: each.tick * times }));
  return createTimeline(
    division.kind === 'metrical'
      ? { ...division, ticksPerQuarter: Math.round(division.ticksPerQuarter * times) }
      : division,
    finer(tempos),
    finer(meters),
  );
}
