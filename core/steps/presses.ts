import { z } from 'zod';
import { pointsOf, type LanePoints, type PedalSpan } from '../curves';
import { firstAtOrAfter, lastAtOrBefore } from '../time';

const tick = z.number('must be a tick').min(0, 'must be 0 or more').max(1e9, 'must be at most 1000000000');
/** A press of a pedal as a step says it: its ticks, or with how far it goes down. */
export const pressSchema = z
  .union(
    [
      z.tuple([tick, tick]),
      z.strictObject({
        start: tick,
        end: tick,
        depth: z.int().min(1, 'must be 1 to 127').max(127, 'must be 1 to 127').default(127),
      }),
    ],
    'must be a press like [0, 480] or {"start": 0, "end": 480, "depth": 100}',
  )
  .refine((press) => (Array.isArray(press) ? press[0] < press[1] : press.start < press.end), {
    message: 'the release must come after the press',
  });

export type Press = z.infer<typeof pressSchema>;
export const startOf = (press: Press) => (Array.isArray(press) ? press[0] : press.start);
export const endOf = (press: Press) => (Array.isArray(press) ? press[1] : press.end);
const depthOf = (press: Press) => (Array.isArray(press) ? 127 : press.depth);

/** A test whether a tick lies under one of some presses, both ends included. */
export function underPresses(presses: readonly Press[]): (at: number) => boolean {
  const sorted = merged(presses);
  const starts = Float64Array.from(sorted, ({ start }) => start);
  return (at) => {
    const next = firstAtOrAfter(starts, at);
    return starts[next] === at || (next > 0 && at <= sorted[next - 1].end);
  };
}

/**
 * The lane without the presses that begin in the way, and with others in their place. A press that reaches in from
 * before ends where the next new one begins.
 */
export function replaced(
  points: LanePoints,
  spans: readonly PedalSpan[],
  inWay: (tick: number) => boolean,
  presses: readonly Press[],
): LanePoints {
  const fresh = merged(presses);
  const starts = Float64Array.from(fresh, ({ start }) => start);
  const list: { tick: number; value: number; row: number }[] = [];
  const keep = (row: number, tick = points.tick[row]) =>
    list.push({ tick, value: points.value[row], row: points.row[row] });
  let row = 0;
  for (const press of spans) {
    // Values under 64 between presses belong to none.
    for (; row < press.first; row++) if (!inWay(points.tick[row])) keep(row);
    row = press.stop;
    if (inWay(press.start)) continue;
    const at = lastAtOrBefore(starts, press.start);
    const next = (starts[at] > press.start ? starts[at] : starts[at + 1]) ?? Infinity;
    for (let own = press.first; own < press.stop; own++) {
      const isRelease = own === press.stop - 1 && press.end !== Infinity;
      if (isRelease) keep(own, Math.min(points.tick[own], next));
      else if (points.tick[own] < next) keep(own);
    }
    if (press.end === Infinity && next !== Infinity) list.push({ tick: next, value: 0, row: -1 });
  }
  for (; row < points.length; row++) if (!inWay(points.tick[row])) keep(row);
  for (const { start, end, depth } of fresh)
    list.push({ tick: start, value: depth, row: -1 }, { tick: end, value: 0, row: -1 });
  // At one tick a release comes before a press, or the press would be lost.
  return pointsOf(list.sort((a, b) => a.tick - b.tick || a.value - b.value));
}

/** Presses in order, those that overlap as one. */
function merged(presses: readonly Press[]): { start: number; end: number; depth: number }[] {
  const sorted = presses
    .map((press) => ({ start: startOf(press), end: endOf(press), depth: depthOf(press) }))
    .sort((a, b) => a.start - b.start);
  const result: typeof sorted = [];
  for (const press of sorted) {
    const last = result.at(-1);
    if (last && press.start < last.end) {
      last.end = Math.max(last.end, press.end);
      last.depth = Math.max(last.depth, press.depth);
    } else result.push({ ...press });
  }
  return result;
}
