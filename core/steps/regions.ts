import type { NoteTable } from '../model';
import { barNumbered, type Timeline } from '../time';
import type { Where } from './where';

/** Stretches of time, each from its first tick up to, not including, its second; in order, none over another. */
export type Regions = readonly (readonly [number, number])[];

/** Keys of a where that speak of notes. */
const NOTE_KEYS = ['pitch', 'velocity', 'length', 'voice', 'drums', 'hand', 'notes'] as const;

/**
 * The time a where names for things that are no notes: its bars; where it speaks of notes, the time from the start to
 * the end of those it touches; all of time when it says nothing of either.
 */
export function regionsOf(where: Where, notes: NoteTable, touched: Uint8Array, { meter }: Timeline): Regions {
  if (NOTE_KEYS.some((key) => where[key] !== undefined)) {
    const merged: [number, number][] = [];
    for (let row = 0; row < notes.length; row++) {
      if (touched[row] === 0) continue;
      const last = merged.at(-1);
      if (last && notes.start[row] <= last[1]) last[1] = Math.max(last[1], notes.end[row]);
      else merged.push([notes.start[row], notes.end[row]]);
    }
    return merged;
  }
  if (!where.bars) return [[-Infinity, Infinity]];
  return [[barNumbered(meter, where.bars[0]).start, barNumbered(meter, where.bars[1]).start]];
}

export function isInside(regions: Regions, tick: number): boolean {
  return regionAt(regions, tick) !== undefined;
}

/** The region a tick lies in, if any. */
export function regionAt(regions: Regions, tick: number): readonly [number, number] | undefined {
  let [low, high] = [0, regions.length];
  while (low < high) {
    const middle = (low + high) >> 1;
    if (regions[middle][0] <= tick) low = middle + 1;
    else high = middle;
  }
  return low > 0 && tick < regions[low - 1][1] ? regions[low - 1] : undefined;
}

/** Regions without end cut to what there is: the given first and last tick. */
export function finite(regions: Regions, first: number, last: number): Regions {
  return regions
    .map(([from, to]) => [Math.max(from, first), Math.min(to, Math.max(last, first))] as const)
    .map(([from, to], index): readonly [number, number] =>
      Number.isFinite(regions[index][0]) ? regions[index] : [from, to],
    )
    .filter(([from, to]) => to > from);
}
