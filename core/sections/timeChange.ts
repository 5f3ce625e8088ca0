import type { Session } from '../session';
import { effectiveMeters, effectiveTempos } from '../time';
import { inOrderOfTime } from './sections';

/**
 * What is done to a stretch of time in everything there is, in ticks: played again after itself, taken out, or as
 * much put in before it.
 */
export interface TimeChange {
  what: 'repeat' | 'delete' | 'insert';
  from: number;
  to: number;
}

/** Where what stood at a tick stands afterwards: nowhere, in one place, or in two. */
export function placesAfter({ what, from, to }: TimeChange, tick: number): number[] {
  const length = to - from;
  if (what === 'delete') return tick < from ? [tick] : tick < to ? [] : [tick - length];
  if (what === 'insert') return tick < from ? [tick] : [tick + length];
  if (tick < from) return [tick];
  return tick < to ? [tick, tick + length] : [tick + length];
}

/**
 * Changes of something that holds until the next (tempo, meter), after a change of time: at every place holds what
 * held there before.
 */
function heldAfter<T extends { tick: number }>(
  changes: readonly T[],
  change: TimeChange,
  isSame: (one: T, other: T) => boolean,
): T[] {
  const { what, from, to } = change;
  const heldAt = (tick: number) => changes.findLast((each) => each.tick <= tick) ?? changes[0];
  const moved = changes.flatMap((each) =>
    placesAfter(change, each.tick).map((tick): T => ({ ...each, tick })),
  );
  const put = (tick: number, held: T) => {
    const before = moved
      .filter((each) => each.tick <= tick)
      .sort((a, b) => a.tick - b.tick)
      .at(-1);
    if (!before || !isSame(before, held)) moved.push({ ...held, tick });
  };
  // The start of the music has a value of its own, whatever was moved away from there.
  put(0, heldAt(0));
  if (what === 'delete') put(from, heldAt(to));
  if (what === 'repeat') put(to, heldAt(from));
  return moved.sort((a, b) => a.tick - b.tick);
}

/**
 * Tempo, meter and markers of a session after bars were repeated, deleted or put in, in all parts: each goes along
 * with the music it stands at. Where a part is locked to seconds the tempo stays: it lies by its seconds, so the map
 * it is laid by may not move beneath it. `endTick` is where the music ended before.
 */
export function mapsAfter(
  session: Pick<Session, 'tempos' | 'meters' | 'parts'>,
  markers: Session['markers'],
  change: TimeChange,
  newId: () => string,
  endTick = Infinity,
): Pick<Session, 'tempos' | 'meters' | 'markers'> {
  const inSeconds = Object.values(session.parts.byId).some(({ lockedTo }) => lockedTo === 'seconds');
  const tempos = heldAfter(
    effectiveTempos(session.tempos),
    change,
    (one, other) => one.microsecondsPerQuarter === other.microsecondsPerQuarter,
  );
  const meters = heldAfter(
    effectiveMeters(session.meters),
    change,
    (one, other) => one.numerator === other.numerator && one.denominator === other.denominator,
  );
  return {
    tempos: inSeconds || session.tempos.length === 0 ? session.tempos : tempos,
    meters: session.meters.length === 0 ? session.meters : meters,
    markers: markers && markersAfter(inOrderOfTime(markers), change, newId, endTick),
  };
}

/**
 * Markers go along with the music they stand at. Where the first bars of a section are deleted and some of it is left,
 * it keeps its marker, at what is left of it.
 */
function markersAfter(
  markers: NonNullable<Session['markers']>,
  change: TimeChange,
  newId: () => string,
  endTick: number,
): NonNullable<Session['markers']> {
  const { what, from, to } = change;
  const begun = markers.findLast(({ tick }) => tick <= to);
  const isCutInto = what === 'delete' && endTick > to && begun && begun.tick >= from && begun.tick < to;
  const keeps = isCutInto ? begun : null;
  return markers.flatMap((marker) => {
    const places = marker === keeps ? [from] : placesAfter(change, marker.tick);
    return places.map((tick, at) => ({ ...marker, id: at === 0 ? marker.id : newId(), tick }));
  });
}
