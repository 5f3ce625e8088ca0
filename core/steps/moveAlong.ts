import {
  SET_UP_LANES,
  filterPoints,
  joinPoints,
  lanesIn,
  readLane,
  restingRaw,
  writeLanes,
  type LaneChange,
  type LanePoints,
} from '../curves';
import { pickEvents, type EventColumns } from '../midi';
import { mergeOrder, type NoteTable } from '../model';
import { barNumbered, firstAtOrAfter, type Timeline } from '../time';
import { heldBefore, heldFrom, withSeams, type Seam } from './seams';
import type { StepContext } from './stepKind';
import type { Where } from './where';

/** The stretch of time and the channels that touched notes take up; null when none is touched. */
export interface TouchedSpan {
  from: number;
  to: number;
  channels: Set<number>;
}

export function spanOf(notes: NoteTable, touched: Uint8Array): TouchedSpan | null {
  const span: TouchedSpan = { from: Infinity, to: -Infinity, channels: new Set() };
  for (let row = 0; row < notes.length; row++) {
    if (touched[row] === 0) continue;
    span.from = Math.min(span.from, notes.start[row]);
    span.to = Math.max(span.to, notes.end[row]);
    span.channels.add(notes.channel[row]);
  }
  return span.to === -Infinity ? null : span;
}

/** What a step moves in time: its notes, which of them it touches, and where each place goes. */
export interface Move {
  notes: NoteTable;
  touched: Uint8Array;
  where: Where;
  timeline: Timeline;
  /** The channel (0-15) the step is for; without it all. */
  channel?: number;
  /** The other parts on the part's channels. */
  beside?: StepContext['beside'];
  place(tick: number): number;
}

/**
 * The events with what goes along with moved notes. Without a where all controllers, bends and pressures of the part
 * go, also those before the first note and after the last; with bars those in the bars; else those from the first
 * touched start up to the next start of another note of the channel. At each seam the value that held is written, so
 * that outside everything sounds as before. Programs stay.
 */
export function movedAlong(events: EventColumns, move: Move): EventColumns {
  const { where } = move;
  const isAll = Object.keys(where).every((key) => key === 'channel');
  if (isAll) return allMoved(events, where.channel === undefined ? move.channel : where.channel - 1, move);
  const changes: LaneChange[] = [];
  for (const [channel, [from, to]] of stretchesOfChannels(move))
    for (const { lane } of lanesIn(events)) {
      if (SET_UP_LANES.has(lane)) continue;
      const points = readLane(events, lane, channel);
      const moved = movedLane(points, [from, to], move.place, restingRaw(lane));
      if (moved !== points) changes.push({ lane, channel, points: moved });
    }
  return writeLanes(events, changes);
}

function allMoved(events: EventColumns, channel: number | undefined, { place }: Move): EventColumns {
  const tick = events.tick.slice();
  let isMoved = false;
  for (let row = 0; row < events.length; row++) {
    const kind = events.status[row] >> 4;
    const plays = kind === 0xa || kind === 0xb || kind === 0xd || kind === 0xe;
    if (!plays || (channel !== undefined && (events.status[row] & 15) !== channel)) continue;
    tick[row] = Math.max(0, place(tick[row]));
    isMoved ||= tick[row] !== events.tick[row];
  }
  if (!isMoved) return events;
  return pickEvents(
    { ...events, tick },
    mergeOrder(events.length, (a, b) => tick[a] - tick[b]),
  );
}

/** Whether what goes along with moved notes ends where another note of the channel begins, of whatever part. */
export const endsAtOthers = (where: Where): boolean =>
  where.bars === undefined && Object.keys(where).some((key) => key !== 'channel');

/**
 * The stretch whose controllers go along, by channel: the bars of the where, or what lies between the touched notes
 * and the next other one.
 */
function stretchesOfChannels({
  notes,
  touched,
  where,
  timeline,
  channel,
  beside,
}: Move): Map<number, [number, number]> {
  const stretches = new Map<number, [number, number]>();
  const lastStart = new Map<number, number>();
  for (let row = 0; row < notes.length; row++) {
    if (touched[row] === 0) continue;
    const own = notes.channel[row];
    if (!stretches.has(own)) stretches.set(own, [notes.start[row], Infinity]);
    lastStart.set(own, notes.start[row]);
  }
  if (where.bars) {
    const [from, to] = where.bars.map((bar) => barNumbered(timeline.meter, bar).start);
    if (channel !== undefined && stretches.size === 0) stretches.set(channel, [from, to]);
    for (const own of stretches.keys()) stretches.set(own, [from, to]);
    return stretches;
  }
  for (let row = 0; row < notes.length; row++) {
    const stretch = stretches.get(notes.channel[row]);
    const last = lastStart.get(notes.channel[row]) ?? Infinity;
    if (stretch && touched[row] === 0 && notes.start[row] > last)
      stretch[1] = Math.min(stretch[1], notes.start[row]);
  }
  for (const { notes: others } of beside?.() ?? [])
    for (const [own, stretch] of stretches) {
      let row = firstAtOrAfter(others.start, lastStart.get(own) ?? Infinity);
      while (row < others.length && (others.channel[row] !== own || others.start[row] === lastStart.get(own)))
        row++;
      if (row < others.length) stretch[1] = Math.min(stretch[1], others.start[row]);
    }
  return stretches;
}

/**
 * A lane with the points of [from, to) at their new places. There only they are, beginning with what held into the
 * stretch; where it ends, and where it was, what held there before holds on.
 */
function movedLane(
  points: LanePoints,
  [from, to]: readonly [number, number],
  place: (tick: number) => number,
  resting: number,
): LanePoints {
  const [first, stop] = [firstAtOrAfter(points.tick, from), firstAtOrAfter(points.tick, to)];
  const [start, end] = [Math.max(0, place(from)), to === Infinity ? Infinity : Math.max(0, place(to))];
  const isInWay = firstAtOrAfter(points.tick, start) < firstAtOrAfter(points.tick, end);
  const entering = heldFrom(points, from);
  if (first === stop && !isInWay && entering === heldFrom(points, start)) return points;
  const isIn = (tick: number, [low, high]: readonly [number, number]) => tick >= low && tick < high;
  const stayed = filterPoints(points, (tick) => !isIn(tick, [from, to]) && !isIn(tick, [start, end]));
  const went = filterPoints(points, (tick) => isIn(tick, [from, to]));
  const laid = joinPoints(stayed, { ...went, tick: went.tick.map((tick) => Math.max(0, place(tick))) });
  const seams: Seam[] = [];
  const hold = (tick: number, value: number | null) => {
    if (value !== null && Number.isFinite(tick)) seams.push({ tick, value });
  };
  hold(start, entering);
  // Behind the new place holds what held there; where that is the old place, what came before it.
  hold(end, isIn(end, [from, to]) ? heldBefore(points, from) : heldFrom(points, end));
  if (!isIn(to, [start, end])) hold(to, heldFrom(points, to));
  seams.sort((a, b) => a.tick - b.tick);
  // Each looks at what those before it wrote.
  return seams.reduce((lane, seam) => withSeams(lane, [seam], resting), laid);
}
