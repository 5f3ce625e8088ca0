import type { Marker } from '../session';
import { barAt, type MeterMap } from '../time';

/** A stretch of the music that has a name: from its marker up to the next one, or to the end. */
export interface NamedSection {
  /** The marker it begins with. */
  id: string;
  name: string;
  /** Ticks. */
  start: number;
  end: number;
  /** As bars of a where: from the first up to, not including, the second; a marker beside a bar line means the line. */
  bars: [from: number, to: number];
}

/** Markers in order of time; of several at one tick the order they were in holds. */
export const inOrderOfTime = (markers: readonly Marker[]): Marker[] =>
  [...markers].sort((a, b) => a.tick - b.tick);

/** The number of the bar whose line is nearest to a tick (a tie: the later). */
function nearestBar(meter: MeterMap, tick: number): number {
  const { number, start, end } = barAt(meter, Math.max(0, tick));
  return tick - start < end - tick ? number : number + 1;
}

/**
 * The sections that markers make of music up to `endTick`; none of what lies before the first marker, and one bar at
 * least each.
 */
export function sectionsOf(markers: readonly Marker[], meter: MeterMap, endTick: number): NamedSection[] {
  const all = inOrderOfTime(markers);
  return all.map(({ id, name, tick }, at) => {
    const next = all.at(at + 1);
    const from = nearestBar(meter, tick);
    const last = barAt(meter, Math.max(tick, endTick - 1e-6));
    const to = at + 1 < all.length && next ? nearestBar(meter, next.tick) : last.number + 1;
    return {
      id,
      name,
      start: tick,
      end: at + 1 < all.length && next ? next.tick : Math.max(last.end, tick + 1),
      bars: [from, Math.max(from + 1, to)],
    };
  });
}

/** The section a tick lies in; null before the first. */
export const sectionAt = (sections: readonly NamedSection[], tick: number): NamedSection | null =>
  sections.findLast(({ start }) => start <= tick + 1e-6) ?? null;
