import type { Assembly } from '../assembly';
import type { EventColumns } from '../midi';
import { withColumns, type NoteTable, type OrderedEvents } from '../model';
import { listOf, type Session } from '../session';
import type { WovenPart } from './weave';

/** A tick lasts no longer than this, in seconds, where rounding to ticks would move what lies in real time. */
const LONGEST_TICK = 0.001;
const MOST_DIVISION = 0x7fff;

/**
 * How many ticks are to be written for each of a session's: more than one where a chosen part lies in real time under
 * a tempo that no file brought, and a tick would last over a millisecond. Then a start is off by half a millisecond
 * at most.
 */
export function ticksForEach(session: Session, partIds: readonly string[], isTempoNew: boolean): number {
  const { division } = session;
  if (!isTempoNew || division.kind !== 'metrical') return 1;
  const inSeconds = listOf(session.parts).some(
    ({ id, lockedTo }) => lockedTo === 'seconds' && partIds.includes(id),
  );
  if (!inSeconds) return 1;
  const slowest = session.tempos.reduce((most, each) => Math.max(most, each.microsecondsPerQuarter), 1) / 1e6;
  let times = 1;
  while (
    slowest / (division.ticksPerQuarter * times) > LONGEST_TICK &&
    division.ticksPerQuarter * times * 2 <= MOST_DIVISION
  )
    times *= 2;
  return times;
}

const finerEvents = (events: EventColumns, times: number): EventColumns => ({
  ...events,
  tick: events.tick.map((tick) => tick * times),
});

const finerNotes = (notes: NoteTable, times: number): NoteTable =>
  withColumns(notes, {
    start: notes.start.map((tick) => tick * times),
    end: notes.end.map((tick) => tick * times),
  });

/** A list of whole ticks, in whole ticks again. */
export function finerList(list: OrderedEvents, times: number): OrderedEvents {
  if (times === 1) return list;
  const events = finerEvents(list.events, times);
  return { ...list, events: { ...events, tick: events.tick.map(Math.round) } };
}

/** What is woven of a part, in `times` as many ticks, which need not be whole. */
export function finerShare(share: WovenPart, times: number): WovenPart {
  if (times === 1) return share;
  const finer = <M extends { notes: NoteTable; events: EventColumns }>(material: M): M => ({
    ...material,
    notes: finerNotes(material.notes, times),
    events: finerEvents(material.events, times),
  });
  const { origins } = share.assembly;
  const assembly: Assembly = {
    ...share.assembly,
    material: finer(share.assembly.material),
    endTick: share.assembly.endTick * times,
    origins: {
      ...origins,
      start: origins.start.map((tick) => tick * times),
      end: origins.end.map((tick) => tick * times),
    },
  };
  return { ...share, assembly, material: finer(share.material) };
}
