import type { EventColumns } from '../midi';

/** Centre of the 14-bit pitch bend (MIDI 1.0). */
export const BEND_CENTRE = 8192;
/** Range before RPN 0 sets another, in cents: two semitones (General MIDI). */
export const DEFAULT_BEND_CENTS = 200;

/** The bend range of a channel along the time: `cents[n]` from `tick[n]` on. */
export interface BendRanges {
  tick: number[];
  cents: number[];
}

/**
 * The bend ranges a channel sets by registered parameter 0 (controllers 101 and 100 at 0, then data entry 6 in
 * semitones and 38 in cents). Non-registered parameters (99, 98) and other numbers in between are passed over.
 */
export function bendRanges(events: EventColumns, channel: number): BendRanges {
  const ranges: BendRanges = { tick: [0], cents: [DEFAULT_BEND_CENTS] };
  let [most, least] = [127, 127];
  let semitones = DEFAULT_BEND_CENTS / 100;
  for (let row = 0; row < events.length; row++) {
    if (events.status[row] !== (0xb0 | channel)) continue;
    const [number, value] = [events.data1[row], events.data2[row]];
    if (number === 101) most = value;
    else if (number === 100) least = value;
    else if (number === 99 || number === 98) most = least = 127;
    else if ((number === 6 || number === 38) && most === 0 && least === 0) {
      if (number === 6) semitones = value;
      const total = semitones * 100 + (number === 38 ? value : 0);
      // A range of nothing would leave no way to say where a bend stands.
      if (total > 0) {
        ranges.tick.push(events.tick[row]);
        ranges.cents.push(total);
      }
    }
  }
  return ranges;
}

/** The range in force at a tick, in cents. */
export function bendRangeAt({ tick, cents }: BendRanges, at: number): number {
  let row = tick.length - 1;
  while (row > 0 && tick[row] > at) row--;
  return cents[row];
}

/** Cents of a raw bend: centre 0, the lowest value one whole range down, the highest one step short of a range up. */
export const centsOfRaw = (raw: number, range: number): number => ((raw - BEND_CENTRE) / BEND_CENTRE) * range;

/** Raw bend of some cents, as a real number. */
export const rawOfCents = (cents: number, range: number): number =>
  BEND_CENTRE + (cents / range) * BEND_CENTRE;
