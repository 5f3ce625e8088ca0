import type { EventColumns } from '../midi';

/**
 * A lane of points by name: a controller `cc0` to `cc119`, pitch `bend`, channel `pressure`, the pressure of one key
 * `key0` to `key127`, or `program`.
 */
export const LANE_PATTERN =
  /^(cc(\d|[1-9]\d|10\d|11\d)|bend|pressure|program|key(\d|[1-9]\d|1[01]\d|12[0-7]))$/;

/**
 * Status kind of a lane's events, and the number of the controller or key its first data byte is (-1 for lanes that
 * have none).
 */
export interface LaneKind {
  status: number;
  controller: number;
}

export function laneKind(lane: string): LaneKind {
  if (lane === 'bend') return { status: 0xe0, controller: -1 };
  if (lane === 'pressure') return { status: 0xd0, controller: -1 };
  if (lane === 'program') return { status: 0xc0, controller: -1 };
  if (lane.startsWith('key')) return { status: 0xa0, controller: Number(lane.slice(3)) };
  return { status: 0xb0, controller: Number(lane.slice(2)) };
}

/**
 * The points of a lane on one channel, in order of time: ticks, raw values (bend 0-16383, others 0-127, as real
 * numbers), and the row of the event each came from, -1 for a new one.
 */
export interface LanePoints {
  length: number;
  tick: Float64Array;
  value: Float64Array;
  row: Int32Array;
}

/** Points from plain values, in the order given. */
export function pointsOf(list: readonly { tick: number; value: number; row?: number }[]): LanePoints {
  const points = {
    length: list.length,
    tick: new Float64Array(list.length),
    value: new Float64Array(list.length),
    row: new Int32Array(list.length),
  };
  for (let at = 0; at < list.length; at++) {
    points.tick[at] = list[at].tick;
    points.value[at] = list[at].value;
    points.row[at] = list[at].row ?? -1;
  }
  return points;
}

/** Some of the points, in the order of the indices. */
export function pickPoints(points: LanePoints, indices: ArrayLike<number>): LanePoints {
  const picked = {
    length: indices.length,
    tick: new Float64Array(indices.length),
    value: new Float64Array(indices.length),
    row: new Int32Array(indices.length),
  };
  for (let at = 0; at < indices.length; at++) {
    picked.tick[at] = points.tick[indices[at]];
    picked.value[at] = points.value[indices[at]];
    picked.row[at] = points.row[indices[at]];
  }
  return picked;
}

/** Points of two lists as one, in order of time; at one tick those of the first come first. */
export function joinPoints(a: LanePoints, b: LanePoints): LanePoints {
  if (a.length === 0) return b;
  if (b.length === 0) return a;
  const joined: LanePoints = {
    length: a.length + b.length,
    tick: new Float64Array(a.length + b.length),
    value: new Float64Array(a.length + b.length),
    row: new Int32Array(a.length + b.length),
  };
  for (let at = 0, left = 0, right = 0; at < joined.length; at++) {
    const takeLeft = right >= b.length || (left < a.length && a.tick[left] <= b.tick[right]);
    const [from, index] = takeLeft ? [a, left++] : [b, right++];
    joined.tick[at] = from.tick[index];
    joined.value[at] = from.value[index];
    joined.row[at] = from.row[index];
  }
  return joined;
}

/** Lists of points that follow each other in time as one, in one go. */
export function chainPoints(lists: readonly LanePoints[]): LanePoints {
  const length = lists.reduce((sum, list) => sum + list.length, 0);
  const chain: LanePoints = {
    length,
    tick: new Float64Array(length),
    value: new Float64Array(length),
    row: new Int32Array(length),
  };
  let at = 0;
  for (const list of lists) {
    chain.tick.set(list.tick, at);
    chain.value.set(list.value, at);
    chain.row.set(list.row, at);
    at += list.length;
  }
  return chain;
}

/** Lanes that set a sound up: they belong to the part, not to the notes they stand beside. */
export const SET_UP_LANES: ReadonlySet<string> = new Set([
  'program',
  'cc0',
  'cc6',
  'cc32',
  'cc38',
  'cc98',
  'cc99',
  'cc100',
  'cc101',
]);

/** Whether an event belongs to a lane, on any channel. */
function isOf(events: EventColumns, row: number, { status, controller }: LaneKind): boolean {
  return (events.status[row] & 0xf0) === status && (controller < 0 || events.data1[row] === controller);
}

/** Channels (0-15) on which a lane has points. */
export function channelsOfLane(events: EventColumns, lane: string): number[] {
  const kind = laneKind(lane);
  const seen = new Set<number>();
  for (let row = 0; row < events.length; row++)
    if (events.status[row] < 0xf0 && isOf(events, row, kind)) seen.add(events.status[row] & 15);
  return [...seen].sort((a, b) => a - b);
}

/** The lane an event is a point of; null for notes, modes of a channel and events of no channel. */
export function laneOfEvent(status: number, data1: number): string | null {
  switch (status & 0xf0) {
    case 0xa0:
      return `key${data1}`;
    case 0xb0:
      return data1 < 120 ? `cc${data1}` : null;
    case 0xc0:
      return 'program';
    case 0xd0:
      return 'pressure';
    case 0xe0:
      return 'bend';
    default:
      return null;
  }
}

/** The lanes that hold points on any channel, with how many; those with most first. */
export function lanesIn(events: EventColumns): { lane: string; points: number }[] {
  const counts = new Map<string, number>();
  for (let row = 0; row < events.length; row++) {
    const lane = laneOfEvent(events.status[row], events.data1[row]);
    if (lane !== null) counts.set(lane, (counts.get(lane) ?? 0) + 1);
  }
  return [...counts].map(([lane, points]) => ({ lane, points })).sort((a, b) => b.points - a.points);
}

/** The points of a lane on a channel (0-15). */
export function readLane(events: EventColumns, lane: string, channel: number): LanePoints {
  const kind = laneKind(lane);
  const status = kind.status | channel;
  let count = 0;
  for (let row = 0; row < events.length; row++)
    if (events.status[row] === status && isOf(events, row, kind)) count++;
  const points = {
    length: count,
    tick: new Float64Array(count),
    value: new Float64Array(count),
    row: new Int32Array(count),
  };
  for (let row = 0, at = 0; at < count; row++) {
    if (events.status[row] !== status || !isOf(events, row, kind)) continue;
    points.tick[at] = events.tick[row];
    points.value[at] =
      kind.controller >= 0
        ? events.data2[row]
        : lane === 'bend'
          ? events.data1[row] | (events.data2[row] << 7)
          : events.data1[row];
    points.row[at++] = row;
  }
  return points;
}

/** The points for which a test holds; the very same when it holds for all. */
export function filterPoints(points: LanePoints, test: (tick: number, row: number) => boolean): LanePoints {
  const rows = new Uint32Array(points.length);
  let count = 0;
  for (let row = 0; row < points.length; row++) if (test(points.tick[row], row)) rows[count++] = row;
  return count === points.length ? points : pickPoints(points, rows.subarray(0, count));
}

/** The greatest raw value of a lane. */
export const greatestRaw = (lane: string): number => (lane === 'bend' ? 16383 : 127);

/** Status and data bytes of a point: the raw value rounded and held to what the lane can hold. */
export function bytesOfPoint(lane: string, channel: number, value: number): [number, number, number] {
  const raw = Math.min(greatestRaw(lane), Math.max(0, Math.round(value)));
  const { status, controller } = laneKind(lane);
  if (lane === 'bend') return [status | channel, raw & 127, raw >> 7];
  if (controller < 0) return [status | channel, raw, 0];
  return [status | channel, controller, raw];
}

/** What a controller stands at before anything was sent: by the MIDI 1.0 and General MIDI conventions (from memory). */
export function restingRaw(lane: string): number {
  if (lane === 'bend') return 8192;
  return { cc7: 100, cc8: 64, cc10: 64, cc11: 127 }[lane] ?? 0;
}
