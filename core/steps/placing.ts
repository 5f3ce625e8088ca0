import { barAt, barNumbered, secondsToTicks, ticksToSeconds, type Timeline } from '../time';

/**
 * Where what is said of places in time is said of now. Everything a step, a part or a session says in ticks, quarters
 * or bars is moved, scaled and carried through one of these and in no other way. Places may come out below 0; who
 * writes them holds them to it (`placeAt`).
 */
export interface Placing {
  /** Where a tick of what was played lies now. */
  played(tick: number): number;
  /**
   * Where a tick that means a place on the bars lies now: what a pulse brings music to, and all that is said after
   * it.
   */
  onGrid(tick: number): number;
  /** What so many ticks of length are now. */
  length(ticks: number): number;
  /** The number of the bar that is meant now by one that was meant before; may be below 1. */
  bar(number: number): number;
  /** Ticks of a quarter before and now. */
  quarter: readonly [before: number, now: number];
  /** Ticks at which `played` bends; between them, and outside them, it is straight. */
  bends: readonly number[];
}

/** Places of one session said in the ticks of another, `scale` of which are one tick there. */
export function scaled(scale: number, ticksPerQuarter: number): Placing {
  const place = (tick: number) => tick * scale;
  return {
    played: place,
    onGrid: place,
    length: place,
    bar: (number) => number,
    quarter: [ticksPerQuarter, ticksPerQuarter * scale],
    bends: [],
  };
}

/**
 * Places that keep their moments under another map of tempo and meter, of this or another session. What lies by the
 * bars keeps its place in quarters.
 */
export function keptInTime(before: Timeline, now: Timeline): Placing {
  const scale = now.ticksPerQuarter / before.ticksPerQuarter;
  const place = (tick: number) => secondsToTicks(now.tempo, ticksToSeconds(before.tempo, tick));
  const back = (tick: number) => secondsToTicks(before.tempo, ticksToSeconds(now.tempo, tick));
  return {
    played: place,
    onGrid: (tick) => tick * scale,
    length: (ticks) => ticks * scale,
    bar: (number) => number,
    quarter: [before.ticksPerQuarter, now.ticksPerQuarter],
    bends: [...before.tempo.tick, ...Array.from(now.tempo.tick, back)],
  };
}

/**
 * Places of music that begins later (or earlier) by some ticks, or where it is locked to seconds by the seconds those
 * last at the start. A bar is the one whose line is nearest to where the line of the former came to lie.
 */
export function begunLater(
  by: { ticks: number; seconds: number | null },
  before: Timeline,
  now: Timeline,
): Placing {
  const { ticks, seconds } = by;
  const later = (tick: number) => tick + ticks;
  const played =
    seconds === null
      ? later
      : (tick: number) => secondsToTicks(now.tempo, ticksToSeconds(before.tempo, tick) + seconds);
  return {
    played,
    onGrid: later,
    length: (same) => same,
    bar(number) {
      const line = later(barNumbered(before.meter, number).start);
      const bar = barAt(now.meter, line);
      return line - bar.start <= bar.end - line ? bar.number : bar.number + 1;
    },
    quarter: [before.ticksPerQuarter, now.ticksPerQuarter],
    bends:
      seconds === null
        ? []
        : [
            ...before.tempo.tick,
            ...Array.from(now.tempo.tick, (tick) =>
              secondsToTicks(before.tempo, ticksToSeconds(now.tempo, tick) - seconds),
            ),
          ],
  };
}

/** The same for what is said after a pulse has brought the playing to the bars. */
export const onTheGrid = (placing: Placing): Placing => ({ ...placing, played: placing.onGrid, bends: [] });

/** Where a tick lies now, at the start at the earliest. */
export const placeAt = (placing: Placing, tick: number): number => Math.max(0, placing.played(tick));

/** Where a place in quarters lies now, in quarters. */
export const quarterAt = ({ played, quarter: [before, now] }: Placing, at: number): number =>
  played(at * before) / now;

/** The same for what lies by the bars. */
export const gridQuarterAt = ({ onGrid, quarter: [before, now] }: Placing, at: number): number =>
  onGrid(at * before) / now;

/**
 * Some bars, from the first up to, not including, the second, as they are meant now; null where none is left of them.
 */
export function barsAt(placing: Placing, [from, to]: readonly [number, number]): [number, number] | null {
  const [first, last] = [Math.max(1, placing.bar(from)), placing.bar(to)];
  // Less than a bar that was moved may round to none; what lies before the start is none.
  if (last <= 1) return null;
  return [first, Math.max(first + 1, last)];
}

/**
 * A map of ticks that is straight between its points, and beyond them goes on as between the last two; of one point,
 * by as much as there.
 */
export type StraightMap = readonly (readonly [from: number, to: number])[];

/** Where a tick lies by such a map. */
export function placeIn(map: StraightMap, tick: number): number {
  if (map.length === 0) return tick;
  if (map.length === 1) return tick + map[0][1] - map[0][0];
  let [low, high] = [0, map.length - 2];
  while (low < high) {
    const middle = (low + high + 1) >> 1;
    if (map[middle][0] <= tick) low = middle;
    else high = middle - 1;
  }
  const [[from, to], [nextFrom, nextTo]] = [map[low], map[low + 1]];
  return to + ((tick - from) * (nextTo - to)) / (nextFrom - from);
}

/**
 * How far two points are looked at from each other where a map has no bend: exact for any map that is straight there.
 */
const FAR = 2 ** 20;
/** Ticks by which a point may be off the line between its neighbours and yet say nothing. */
const STRAIGHT = 1e-7;

/** A map of ticks with a placing after it, as few points as say it. */
export function mapThen(map: StraightMap, placing: Placing): [number, number][] {
  const back = (tick: number) => placeIn(turned(map), tick);
  const inner = [...map.map(([from]) => from), ...placing.bends.map(back)].filter((at) =>
    Number.isFinite(at),
  );
  const first = Math.min(0, ...inner.slice(0, 1));
  const last = inner.reduce((latest, at) => Math.max(latest, at), first);
  const from = [...new Set([first, ...inner, last + FAR])].sort((a, b) => a - b);
  const points = from.map((at): [number, number] => [at, placing.played(placeIn(map, at))]);
  const kept: [number, number][] = [];
  points.forEach((point, index) => {
    const [before, after] = [kept.at(-1), points.at(index + 1)];
    if (before && after && Math.abs(placeIn([before, after], point[0]) - point[1]) < STRAIGHT) return;
    kept.push(point);
  });
  const [[at, to], end] = [kept[0], kept[kept.length - 1]];
  return kept.length === 2 && Math.abs(end[1] - to - (end[0] - at)) < STRAIGHT ? [[at, to]] : kept;
}

const turned = (map: StraightMap): StraightMap => map.map(([from, to]) => [to, from] as const);
