import { median } from '../../analysis';
import type { PulseHints } from '../../session';
import { firstAtOrAfter } from '../../time';
import type { FoundBeats } from '../findBeats';

/** Nothing is said of any beat. */
export const NO_HINTS: PulseHints = { beats: [], settling: 'beats' };

/** Strokes as beats are put onto them: seconds, and how much each stands out, 0 to 1. */
export interface Strokes {
  time: ArrayLike<number>;
  strength: ArrayLike<number>;
}

/** A beat of a person's that is this near to a time is the one that is meant there, in seconds. */
export const SAME = 0.02;

/** The number of the beat nearest to a time; -1 without beats. */
export function nearestBeat(beats: ArrayLike<number>, at: number): number {
  let nearest = beats.length - 1;
  for (let beat = 0; beat < beats.length; beat++) {
    if (Math.abs(beats[beat] - at) < Math.abs(beats[nearest] - at)) nearest = beat;
    else if (beats[beat] > at) break;
  }
  return nearest;
}

/**
 * How long beats are around one of them, in seconds: the median of up to eight distances; half a second without two.
 */
export function periodAround(beats: ArrayLike<number>, beat: number): number {
  const gaps: number[] = [];
  for (let at = Math.max(1, beat - 3); at <= Math.min(beats.length - 1, beat + 4); at++)
    gaps.push(beats[at] - beats[at - 1]);
  return gaps.length === 0 ? 0.5 : median(gaps);
}

/**
 * The stroke that is meant by a time: of those within `reach` seconds the one that is near and stands out; -1 for
 * none.
 */
export function strokeMeant({ time, strength }: Strokes, at: number, reach: number): number {
  let [found, most] = [-1, 0];
  for (let row = firstAtOrAfter(time, at - reach); row < time.length && time[row] <= at + reach; row++) {
    const worth = (0.25 + strength[row]) * Math.exp(-0.5 * ((time[row] - at) / (reach / 2)) ** 2);
    if (worth > most) [found, most] = [row, worth];
  }
  return found;
}

/** All that is said of single times, each where `moved` puts it; what it puts nowhere is no longer said. */
export function withTimesMoved(pulse: PulseHints, moved: (at: number) => number | null): PulseHints {
  const all = (times: readonly number[]) => times.flatMap((at) => moved(at) ?? []);
  const timesOf = <S extends Pick<PulseHints, 'beats' | 'only' | 'places'>>(said: S): S => ({
    ...said,
    beats: all(said.beats),
    ...(said.only && {
      only: said.only.flatMap(([from, to]): [number, number][] => {
        const [a, b] = [moved(from), moved(to)];
        return a === null || b === null ? [] : [[a, b]];
      }),
    }),
    ...(said.places && {
      places: said.places.flatMap((place) => {
        const at = moved(place.at);
        return at === null ? [] : [{ ...place, at }];
      }),
    }),
  });
  return {
    ...timesOf(pulse),
    ...(pulse.laid && { laid: all(pulse.laid) }),
    ...(pulse.without && { without: all(pulse.without) }),
    ...(pulse.was && { was: { ...timesOf(pulse.was), laid: all(pulse.was.laid) } }),
  };
}

/** All beats are these from now on, and none is found; what the finding went by is no longer needed. */
export function laidOut(
  pulse: PulseHints,
  beats: Iterable<number>,
  found: Pick<FoundBeats, 'division'>,
): PulseHints {
  const said: PulseHints = { ...pulse, division: found.division, laid: [...beats] };
  delete said.period;
  delete said.without;
  delete said.was;
  return said;
}

/** Sorted, of those that are the same only one. */
export const inOrder = (beats: readonly number[]): number[] =>
  [...beats]
    .sort((one, other) => one - other)
    .filter((at, row, all) => row === 0 || at - all[row - 1] > 1e-4);
