import type { Sounding } from '@ordle/core';
import type { Score } from '@ordle/sound';

/** Seconds that ring on after the last note before playing ends. */
const TAIL_SECONDS = 1.5;

/** Exactly what sounds, to be played from a second on by itself: every part, no click, nothing looped. */
export const requestToHear = (
  { parts, end }: Pick<Sounding, 'parts' | 'end'>,
  second = 0,
): { score: Score; second: number; loop: null; click: number } => ({
  score: {
    parts: parts.map((part) => ({ ...part, audible: true })),
    end: end + TAIL_SECONDS,
    clickTimes: new Float64Array(0),
    clickAccents: new Uint8Array(0),
  },
  second: second < end ? second : 0,
  loop: null,
  click: 0,
});
