import { filterPoints, heldValue, joinPoints, pointsOf, type LanePoints } from '../curves';
import { firstAtOrAfter } from '../time';
import { isInside, type Regions } from './regions';

/** A value that is to hold from a tick on, until the next point. */
export interface Seam {
  tick: number;
  value: number;
}

/** Whether a point stands exactly at a tick. */
export const hasPointAt = ({ tick }: LanePoints, at: number): boolean =>
  tick[firstAtOrAfter(tick, at)] === at;

/** The value a lane holds from a tick on; null where it holds none yet, since nothing was sent. */
export const heldFrom = (points: LanePoints, tick: number): number | null =>
  points.length > 0 && points.tick[0] <= tick ? heldValue(points, tick, 0) : null;

/** The value a lane held just before a tick; null where nothing was sent before it. */
export function heldBefore(points: LanePoints, tick: number): number | null {
  const row = firstAtOrAfter(points.tick, tick) - 1;
  return row < 0 ? null : points.value[row];
}

/**
 * Points with what is to hold at some seams written there, in order of time, where something else would hold; a point
 * that stands at a seam already rules it.
 */
export function withSeams(points: LanePoints, seams: readonly Seam[], resting: number): LanePoints {
  const added = seams.filter(
    ({ tick, value }) => !hasPointAt(points, tick) && (heldFrom(points, tick) ?? resting) !== value,
  );
  return added.length === 0 ? points : joinPoints(points, pointsOf(added));
}

/**
 * The values that held at the ends of regions, to hold on from there; where the lane had held nothing, its rest, or
 * what was written would hold to the end of the music.
 */
export const leavingOf = (points: LanePoints, regions: Regions, resting: number): Seam[] =>
  regions.flatMap(([, to]) =>
    Number.isFinite(to) ? [{ tick: to, value: heldFrom(points, to) ?? resting }] : [],
  );

/**
 * The points of a pedal's lane with the pedal up in some regions: a press that reaches in ends where one begins, and
 * what held at its end is down again from there.
 */
export function pedalLifted(points: LanePoints, regions: Regions): LanePoints {
  const left = filterPoints(points, (tick) => !isInside(regions, tick));
  const lifted = regions.flatMap(([from]) => (Number.isFinite(from) ? [{ tick: from, value: 0 }] : []));
  return withSeams(withSeams(left, lifted, 0), leavingOf(points, regions, 0), 0);
}
