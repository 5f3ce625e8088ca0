import { barAt, barNumbered, type Part, type TickRange, type Timeline } from '@ordle/core';
import { recordSettings, recordingPlace } from './settings';

/**
 * Where a recording will begin and end, in ticks; `start` is where the music begins, before the range where there is a
 * pre-roll.
 */
export interface RecordingPlan {
  start: number;
  from: number;
  loop: TickRange | null;
  punch: TickRange | null;
}

/** Where recording would begin and end as things are set. */
export function planOf(
  timeline: Timeline,
  loop: { on: boolean } & TickRange,
  playTick: number,
): RecordingPlan {
  const { punch } = recordingPlace();
  const { preRoll } = recordSettings();
  if (punch.on && punch.to > punch.from) {
    const bar = barAt(timeline.meter, punch.from).number;
    const start = preRoll === 0 ? punch.from : barNumbered(timeline.meter, Math.max(1, bar - preRoll)).start;
    return { start, from: start, loop: null, punch: { from: punch.from, to: punch.to } };
  }
  if (loop.on && loop.to > loop.from) {
    const isInside = playTick >= loop.from && playTick < loop.to;
    const from = isInside ? playTick : loop.from;
    return { start: from, from, loop: { from: loop.from, to: loop.to }, punch: null };
  }
  return { start: playTick, from: playTick, loop: null, punch: null };
}

/** Why nothing can be recorded into a part; null where it can. */
export function refusalOf(part: Part | null, mayWrite: boolean): string | null {
  if (!mayWrite) return 'This session is open in another tab, which alone may change it.';
  if (!part) return 'There is no part to record into. Add one first.';
  if (part.setAside)
    return `${part.name} is set aside, so nothing is recorded into it. Take it back on Parts first.`;
  return null;
}
