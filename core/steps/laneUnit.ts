import { BEND_CENTRE, bendRangeAt, bendRanges, centsOfRaw, rawOfCents } from '../curves';
import type { EventColumns } from '../midi';

/** Converts between raw values of a lane and its own unit: cents for bend, itself for the others. */
export interface LaneUnit {
  of(raw: number, tick: number): number;
  raw(value: number, tick: number): number;
  low: number;
  high: number;
  step: number;
}

export function laneUnit(events: EventColumns, lane: string, channel: number): LaneUnit {
  if (lane !== 'bend') return { of: (raw) => raw, raw: (value) => value, low: 0, high: 127, step: 1 };
  const ranges = bendRanges(events, channel);
  const widest = Math.max(...ranges.cents);
  return {
    of: (raw, tick) => centsOfRaw(raw, bendRangeAt(ranges, tick)),
    raw: (value, tick) => rawOfCents(value, bendRangeAt(ranges, tick)),
    low: -widest,
    high: widest,
    step: widest / BEND_CENTRE,
  };
}
