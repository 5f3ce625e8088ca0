import type { EventColumns } from '../midi';
import { withColumns, type NoteTable, type Take } from '../model';
import type { Session } from '../session';
import { createTimeline, effectiveMeters, effectiveTempos, type Timeline } from '../time';
import type { Chosen } from './chosenParts';
import { markersOf } from './conductor';
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
