import {
  NO_HINTS,
  findBeats,
  onsetEventsOf,
  withBeatAt,
  withBeatDragged,
  withBeatOut,
  type PulseHints,
} from '@ordle/core';
import type { BenchRow } from '../core';
import { fMeasure } from './score';

/** A beat farther than this from where it was meant is wrong to a person who mends; and no beat is as far as this. */
const [WRONG, NONE] = [0.035, 0.07];
/** Performances with more of them wrong are mended at another level first. */
const LEAST_F = 0.9;
/** A person gives up. */
const MOST_DEEDS = 400;

/**
 * How many deeds of a hand it takes to put beats right one after the other, of those that are wrong: a drag that takes
 * what was right along would cost more than it mends.
 */
export function benchMending(
  all: readonly { notes: Parameters<typeof findBeats>[0]; beats: Float64Array }[],
  tempo: Parameters<typeof findBeats>[1],
  whose: string,
): BenchRow {
  let [wrong, deeds, lost, count] = [0, 0, 0, 0];
  for (const { notes, beats } of all) {
    const found = findBeats(notes, tempo);
    const missing = (beatsOf: Float64Array) =>
      [...beats].filter((meant) => !beatsOf.some((at) => Math.abs(at - meant) < WRONG));
    if (missing(found.beats).length < 2 || fMeasure(found.beats, beats) < LEAST_F) continue;
    const strokes = onsetEventsOf(notes, tempo);
    let pulse: PulseHints = NO_HINTS;
    let stands = { ...found, strokes };
    count++;
    wrong += missing(found.beats).length;
    for (let deed = 0; deed < MOST_DEEDS; deed++) {
      const [next] = missing(stands.beats);
      const extra = stands.beats.find((at) => !beats.some((meant) => Math.abs(at - meant) < NONE));
      if (next === undefined && extra === undefined) break;
      deeds++;
      pulse = mended(pulse, stands, next, extra);
      stands = { ...findBeats(notes, tempo, pulse), strokes };
    }
    if (!pulse.beats.every((at) => stands.beats.some((each) => Math.abs(each - at) < 1e-9))) lost++;
  }
  return {
    work: `mending by hand, ${wrong} wrong beats of ${count} ${whose}`,
    ours: `${deeds} deeds`,
    peer: `${lost} lost what was said`,
    reach: 'as many as are wrong, and a fifth',
    met: lost === 0 && deeds <= 1.2 * wrong,
  };
}

/** The next wrong beat put right: dragged from beside it, or a new one; one that is no beat taken out. */
function mended(
  pulse: PulseHints,
  stands: Parameters<typeof withBeatDragged>[1] & { beats: Float64Array },
  next: number | undefined,
  extra: number | undefined,
): PulseHints {
  if (next === undefined) return withBeatOut(pulse, stands, extra ?? 0);
  const near = [...stands.beats].sort((a, b) => Math.abs(a - next) - Math.abs(b - next))[0];
  try {
    return Math.abs(near - next) < 4 * NONE && !pulse.beats.includes(near)
      ? withBeatDragged(pulse, stands, near, next)
      : withBeatAt(pulse, stands, next);
  } catch {
    // There is no room for it while another stands there.
    return withBeatOut(pulse, stands, near);
  }
}
