import { barAt, ticksToSeconds, type Timeline } from '../time';

/** An end at most this far past a bar line counts as at it. */
const PAST_LINE_SECONDS = 0.06;

/**
 * The first bar line at or after the last end; one at most 60 ms before it counts, unless a note even starts there or
 * later, were it of no length. The start where nothing was played (no last start, told by one below 0).
 */
export function lineAfter(end: number, lastStart: number, { meter, tempo }: Timeline): number {
  if (lastStart < 0) return 0;
  const bar = barAt(meter, end);
  const past = ticksToSeconds(tempo, end) - ticksToSeconds(tempo, bar.start);
  return past <= PAST_LINE_SECONDS + 1e-9 && lastStart < bar.start ? bar.start : bar.end;
}
