import {
  filterPoints,
  heldValue,
  joinPoints,
  markThinned,
  markThinnedAsHeld,
  pointsOf,
  rampAt,
  smoothed,
  waveAt,
  type LanePoints,
  type RampShape,
} from '../curves';
import {
  createGrid,
  firstAtOrAfter,
  nearestLine,
  quartersOf,
  secondsToTicks,
  ticksToSeconds,
  type Timeline,
} from '../time';
import type { CurveStep } from './curveSettings';
import type { PointBudget } from './bounds';
import { isInside, type Regions } from './regions';

/** What an operation works on: points whose values are in the lane's own unit (0-127, or cents). */
export interface Curve {
  points: LanePoints;
  regions: Regions;
  timeline: Timeline;
  /** The value before the first point. */
  resting: number;
  /** Least and greatest value, and the width of a step between two that can be told apart. */
  low: number;
  high: number;
  step: number;
  budget: PointBudget;
}

type StepOf<Op extends CurveStep['op']> = Extract<CurveStep, { op: Op }>;

/** Seconds between two points of a ramp at least, and of a wave. */
const RAMP_SECONDS = 0.005;
const WAVE_SECONDS = 0.01;

const insideOf = ({ points, regions }: Curve): Uint8Array =>
  Uint8Array.from(points.tick, (tick) => (isInside(regions, tick) ? 1 : 0));

/** Writes each value inside anew; the others stay. */
export function mapped(curve: Curve, change: (value: number) => number): LanePoints {
  const inside = insideOf(curve);
  return {
    ...curve.points,
    value: curve.points.value.map((value, row) => (inside[row] === 1 ? change(value) : value)),
  };
}

/** Points outside the regions. */
export const outside = ({ points, regions }: Curve): LanePoints =>
  filterPoints(points, (tick) => !isInside(regions, tick));

/** Points inside the regions. */
export const inside = ({ points, regions }: Curve): LanePoints =>
  filterPoints(points, (tick) => isInside(regions, tick));

export function smoothedOver(curve: Curve, ms: number): LanePoints {
  const { points, timeline } = curve;
  const time = points.tick.map((tick) => ticksToSeconds(timeline.tempo, tick) * 1000);
  return { ...points, value: smoothed(points, time, ms, insideOf(curve)) };
}

/**
 * Thins what lies inside each region by itself, so that nothing outside is looked at: by the value that holds until
 * the next point, or by the line between points. Steps that were stored before there was a choice name neither, and
 * thin by the line as they did.
 */
export function thinnedOver(curve: Curve, { tolerance, by }: StepOf<'thin'>): LanePoints {
  const { points } = curve;
  const keep = new Uint8Array(points.length).fill(1);
  const mark = by === 'held' ? markThinnedAsHeld : markThinned;
  for (const [from, to] of curve.regions)
    mark(points, tolerance, firstAtOrAfter(points.tick, from), firstAtOrAfter(points.tick, to), keep);
  return filterPoints(points, (_, row) => keep[row] === 1);
}

const BESIDE = 0.501;

/**
 * Points inside go to their nearest grid line inside; of several that meet on one line the last stays. One that has no
 * line inside stays where it is.
 */
export function snapped(curve: Curve, step: StepOf<'snap'>): LanePoints {
  const grid = createGrid(curve.timeline.meter, [step.grid]);
  const place = { line: 0, step: 0 };
  const moving = inside(curve);
  let region = 0;
  const tick = moving.tick.map((at) => {
    while (at >= curve.regions[region][1]) region++;
    const [from, to] = curve.regions[region];
    const { line, step: width } = nearestLine(grid, at, place);
    // A hair over half a step away the next line on that side is the nearest one, also beside the end of a bar.
    const beside = line >= to ? -BESIDE : line < from ? BESIDE : 0;
    const own = beside === 0 ? line : nearestLine(grid, line + beside * width, place).line;
    return own >= from && own < to ? own : at;
  });
  const last = filterPoints(
    { ...moving, tick },
    (line, row) => row + 1 === moving.length || tick[row + 1] !== line,
  );
  return joinPoints(outside(curve), last);
}

/** Points while they are made: one list for a whole step, since a step may fill 100,000 stretches. */
export type MadePoints = { tick: number; value: number }[];

/**
 * A point at each change of a whole step of the value, at most one each 5 ms; the last value is always reached. Put
 * at the end of `made`.
 */
export function makeRamp(
  made: MadePoints,
  curve: Pick<Curve, 'timeline' | 'step'> & Partial<Pick<Curve, 'budget'>>,
  from: number,
  to: number,
  shape: RampShape,
  [start, end]: readonly [number, number],
): void {
  const { tempo } = curve.timeline;
  const whole = (value: number) => Math.round(value / curve.step);
  const [first, last] = [whole(from), whole(to)];
  const before = made.length;
  made.push({ tick: start, value: first * curve.step });
  const direction = Math.sign(last - first);
  let earliest = ticksToSeconds(tempo, start) + RAMP_SECONDS;
  for (let count = nextLevel(); count <= Math.abs(last - first); count++) {
    const level = first + direction * count;
    // The value rounds to this level once half a step before it is passed.
    const share = ((level - direction * 0.5) * curve.step - from) / (to - from);
    const tick = start + inverse(shape, Math.min(1, Math.max(0, share))) * (end - start);
    const second = ticksToSeconds(tempo, tick);
    if (second < earliest - 1e-9) continue;
    made.push({ tick, value: level * curve.step });
    earliest = second + RAMP_SECONDS;
    count = Math.max(count, nextLevel() - 1);
  }
  const final = made[made.length - 1];
  if (whole(final.value) !== last) {
    const tick = secondsToTicks(tempo, earliest);
    if (tick < end) made.push({ tick, value: last * curve.step });
    else final.value = last * curve.step;
  }
  curve.budget?.spend(made.length - before);

  /**
   * A steep ramp passes many levels within 5 ms: the level, or one shortly before it, that it has reached when they
   * are over.
   */
  function nextLevel(): number {
    const along = (secondsToTicks(tempo, earliest) - start) / (end - start);
    const reached = from + rampAt(shape, Math.min(1, along)) * (to - from);
    return Math.max(1, Math.floor((reached / curve.step - first) * direction + 0.5) - 1);
  }
}

/** The share of its time at which a ramp stands at a share of its way; by halving, since the shapes only rise. */
function inverse(shape: RampShape, share: number): number {
  if (shape === 'line') return share;
  let [low, high] = [0, 1];
  for (let count = 0; count < 48; count++) {
    const middle = (low + high) / 2;
    if (rampAt(shape, middle) < share) low = middle;
    else high = middle;
  }
  return high;
}

export function ramped(curve: Curve, step: StepOf<'ramp'>): LanePoints {
  const held = (value: number) => Math.min(curve.high, Math.max(curve.low, value));
  const made: MadePoints = [];
  for (const region of curve.regions)
    makeRamp(made, curve, held(step.from), held(step.to), step.shape, region);
  return joinPoints(outside(curve), pointsOf(made));
}

/** A wave on top of what is there: a point each 10 ms, and at the end the value that would stand there without it. */
export function waved(curve: Curve, step: StepOf<'wave'>): LanePoints {
  const { timeline, points: before } = curve;
  const { tempo, ticksPerQuarter } = timeline;
  const list: MadePoints = [];
  const begun = ticksToSeconds(
    tempo,
    curve.regions.reduce((first, [start]) => Math.min(first, start), Infinity),
  );
  for (const [start, end] of curve.regions) {
    const [from, to] = [ticksToSeconds(tempo, start), ticksToSeconds(tempo, end)];
    curve.budget.spend(Math.ceil((to - from) / WAVE_SECONDS) + 1);
    for (let count = 0; from + count * WAVE_SECONDS < to - 1e-9; count++) {
      const passed = count * WAVE_SECONDS;
      const tick = secondsToTicks(tempo, from + passed);
      const phase =
        'hz' in step.rate
          ? passed * step.rate.hz
          : (tick - start) / (quartersOf(step.rate.note) * ticksPerQuarter);
      const faded = step.fadeOnce ? from + passed - begun : passed;
      const fade = step.fadeMs === 0 ? 1 : Math.min(1, (faded * 1000) / step.fadeMs);
      list.push({
        tick,
        value: heldValue(before, tick, curve.resting) + step.depth * fade * waveAt(step.shape, phase),
      });
    }
    const after = heldValue(before, end, curve.resting);
    if (before.tick[firstAtOrAfter(before.tick, end)] !== end) list.push({ tick: end, value: after });
  }
  return joinPoints(outside(curve), pointsOf(list));
}

/** The drawn points in place of what lay between the first and the last of them. */
export function drawn(curve: Curve, step: StepOf<'draw'>): LanePoints {
  const list = step.points
    .filter(({ at }) => isInside(curve.regions, at))
    .sort((a, b) => a.at - b.at)
    .map(({ at, value }) => ({ tick: at, value }));
  if (list.length === 0) return curve.points;
  const [first, last] = [list[0].tick, list[list.length - 1].tick];
  const around = filterPoints(curve.points, (tick) => tick < first || tick > last);
  return joinPoints(around, pointsOf(list));
}

/** A straight line from one place of a lane to a later one, as a ramp draws it; values in whole units. */
export function lineThrough(
  from: { at: number; value: number },
  to: { at: number; value: number },
  step: number,
  timeline: Timeline,
): { at: number; value: number }[] {
  if (to.at <= from.at) return [{ at: to.at, value: to.value }];
  const made: MadePoints = [];
  makeRamp(made, { timeline, step }, from.value, to.value, 'line', [from.at, to.at]);
  return made.map(({ tick, value }) => ({ at: tick, value }));
}
