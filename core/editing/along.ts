import {
  PEDAL_LANES,
  SET_UP_LANES,
  heldValue,
  lanesIn,
  readLane,
  restingRaw,
  type LanePoints,
} from '../curves';
import type { EventColumns } from '../midi';
import { rowsNamed, type NoteTable } from '../model';
import { firstAtOrAfter } from '../time';
import { ownPresses, pedalHand, pressesAlong, type OwnPress } from './alongPresses';
import { laneUnit, pedalLifted, type CurveEdit, type LaneUnit } from '../steps';
import { editOf, type LanePlace } from './curveOperations';

/**
 * Whether a lane's points go along with notes; the pressure of single keys does so by itself, being part of its note.
 */
export const goesAlong = (lane: string): boolean => !SET_UP_LANES.has(lane) && !lane.startsWith('key');

/** What is done to notes: moved or copied by some ticks, or deleted. */
export type AlongAction =
  { kind: 'move'; ticks: number } | { kind: 'copy'; ticks: number; semitones?: number } | { kind: 'delete' };

/**
 * The stretches of time whose controllers belong to some notes: from their first start up to the next start of
 * another note after the last of them (infinite where none follows), where no other note of the channel sounds. Each
 * from its first tick up to, not including, its second. `selected` has a byte a row.
 */
export function stretchesOf(
  notes: Pick<NoteTable, 'length' | 'start' | 'end'>,
  selected: Uint8Array,
): [number, number][] {
  const [from, last] = hullOfSelected(notes, selected);
  if (last === -Infinity) return [];
  const to = nextOther(notes, selected, last);
  const pieces: [number, number][] = [];
  let at = from;
  // Notes are in order of start: what the others leave free is found in one pass.
  for (let row = 0; row < notes.length && at < to; row++) {
    if (selected[row] === 1 || notes.end[row] <= at) continue;
    if (notes.start[row] >= to) break;
    if (notes.start[row] > at) pieces.push([at, notes.start[row]]);
    at = Math.max(at, notes.end[row]);
  }
  if (at < to) pieces.push([at, to]);
  // Of the pieces those count in which a selected note sounds; both are in order of time.
  let [row, reach] = [0, -Infinity];
  return pieces.filter(([low, high]) => {
    for (; row < notes.length && notes.start[row] < high; row++)
      if (selected[row] === 1) reach = Math.max(reach, notes.end[row]);
    return reach > low;
  });
}

/**
 * Edits that take the controllers of some notes along with what is done to them. At every seam the value that would
 * be in force without the change is written, so that nothing jumps: what follows the old place and the new one sounds
 * as before.
 */
export function alongEdits(
  events: EventColumns,
  notes: NoteTable,
  selected: ReadonlySet<number>,
  action: AlongAction,
  channel: number,
): CurveEdit[] {
  const rows = rowsNamed(notes.id, selected);
  const stretches = stretchesOf(notes, rows);
  const pressure = action.kind === 'copy' ? copiedPressure(events, notes, rows, action, channel) : [];
  if (stretches.length === 0 || (action.kind !== 'delete' && action.ticks === 0)) return pressure;
  const fate = fateOf(notes, rows, action);
  const curves = lanesIn(events)
    .map(({ lane }) => lane)
    .filter(goesAlong)
    .flatMap((lane) => {
      const points = readLane(events, lane, channel);
      const unit = laneUnit(events, lane, channel);
      if (PEDAL_LANES.has(lane)) {
        const own = stretches.flatMap((stretch) => pressesInStretch(points, notes, rows, stretch));
        return pressesAlong(pedalHand(lane, channel, points), own, fate);
      }
      return stretches.flatMap((stretch) =>
        editsOf(lane, channel, points, unit, stretchInLane(points, notes, rows, stretch), fate),
      );
    });
  return [...curves, ...pressure];
}

function fateOf(notes: NoteTable, rows: Uint8Array, action: AlongAction): Fate {
  if (action.kind === 'delete') return { place: null, leaves: true, cut: 0 };
  const [, last] = hullOfSelected(notes, rows);
  const others = action.kind === 'move' ? rows : new Uint8Array(rows.length);
  return {
    place: (tick) => tick + action.ticks,
    leaves: action.kind === 'move',
    cut: nextOther(notes, others, last + action.ticks),
  };
}

/**
 * Edits that leave nothing of a lane from one tick up to another, a pedal up; what held at the end holds on from
 * there. `channel` is 0-15.
 */
export function clearEdits(
  events: EventColumns,
  lanes: readonly string[],
  [from, to]: readonly [number, number],
  channel: number,
): CurveEdit[] {
  return lanes.flatMap((lane) => {
    const points = readLane(events, lane, channel);
    if (PEDAL_LANES.has(lane)) {
      const hand = pedalHand(lane, channel, points);
      const lifted = placesIn(pedalLifted(points, [[from, to]]), from, to);
      const isThere = lifted.length > 0 || placesIn(points, from, to).length > 0;
      return isThere ? [editOf(hand, from, to, lifted)] : [];
    }
    return editsOf(
      lane,
      channel,
      points,
      laneUnit(events, lane, channel),
      { from, to, reach: to },
      { place: null, leaves: true, cut: to },
    );
  });
}

/** The points of a lane from one tick to another, both included, as places. */
const placesIn = ({ tick, value }: LanePoints, from: number, to: number): LanePlace[] =>
  Array.from(tick, (at, row) => ({ at, value: value[row] })).filter(({ at }) => at >= from && at <= to);

/** The pressure of single keys, as it is of the notes that are copied. */
function copiedPressure(
  events: EventColumns,
  notes: NoteTable,
  selected: Uint8Array,
  { ticks, semitones = 0 }: { ticks: number; semitones?: number },
  channel: number,
): CurveEdit[] {
  return pressureOf(events, notes, selected, channel).map(({ pitch, points }) => {
    const laid = points.map(({ at, value }) => ({ at: Math.max(0, at + ticks), value }));
    return {
      lane: `key${Math.min(127, Math.max(0, pitch + semitones))}`,
      channel: channel + 1,
      from: laid[0].at,
      to: laid[laid.length - 1].at,
      points: laid,
    };
  });
}

/**
 * The pressure on its key while each selected note sounds (a byte a row), for the notes that have some. `channel` is
 * 0-15.
 */
export function pressureOf(
  events: EventColumns,
  notes: NoteTable,
  selected: Uint8Array,
  channel: number,
): { pitch: number; end: number; points: { at: number; value: number }[] }[] {
  const lanes = new Map<number, LanePoints>();
  for (const { lane } of lanesIn(events))
    if (lane.startsWith('key')) lanes.set(Number(lane.slice(3)), readLane(events, lane, channel));
  const found: ReturnType<typeof pressureOf> = [];
  for (let row = 0; row < notes.length && lanes.size > 0; row++) {
    const lane = lanes.get(notes.pitch[row]);
    if (!lane || selected[row] === 0) continue;
    const points: { at: number; value: number }[] = [];
    for (let at = firstAtOrAfter(lane.tick, notes.start[row]); lane.tick[at] <= notes.end[row]; at++)
      points.push({ at: lane.tick[at], value: lane.value[at] });
    if (points.length > 0) found.push({ pitch: notes.pitch[row], end: notes.end[row], points });
  }
  return found;
}

/** First start and last end of the notes with a byte of 1. */
function hullOfSelected(
  notes: Pick<NoteTable, 'length' | 'start' | 'end'>,
  selected: Uint8Array,
): [number, number] {
  let [first, last] = [Infinity, -Infinity];
  for (let row = 0; row < notes.length; row++) {
    if (selected[row] === 0) continue;
    first = Math.min(first, notes.start[row]);
    last = Math.max(last, notes.end[row]);
  }
  return [first, last];
}

/** The first start from a tick on of a note that is not selected; infinite where there is none. */
function nextOther(
  { length, start }: Pick<NoteTable, 'length' | 'start'>,
  selected: Uint8Array,
  tick: number,
) {
  for (let row = firstAtOrAfter(start, tick); row < length; row++) if (selected[row] === 0) return start[row];
  return Infinity;
}

/**
 * What is done to the controllers of a stretch: where a tick of it goes (null: nowhere), whether it leaves, and how
 * far it reaches there.
 */
interface Fate {
  place: ((tick: number) => number) | null;
  leaves: boolean;
  /** What is laid ends here at the latest: another note begins. */
  cut: number;
}

/** A stretch of a lane, and where what is laid of it elsewhere may end. */
export interface LaneStretch {
  from: number;
  to: number;
  reach: number;
}

/**
 * The stretch as far as a lane has something to say in it: to the last of the notes at least, and beyond them as far
 * as there are points.
 */
export function stretchInLane(
  points: LanePoints,
  notes: Pick<NoteTable, 'length' | 'start' | 'end'>,
  selected: Uint8Array,
  [from, to]: readonly [number, number],
): LaneStretch {
  const [, last] = hullOfSelected(notes, selected);
  const stop = firstAtOrAfter(points.tick, to);
  const lastPoint = stop > 0 ? points.tick[stop - 1] : -Infinity;
  const end = last >= to ? to : Math.max(last, lastPoint >= from ? lastPoint + 1 : last);
  return { from, to: to === Infinity ? end : to, reach: end };
}

/** The presses of a pedal that go along with notes in a stretch. */
export function pressesInStretch(
  points: LanePoints,
  notes: Pick<NoteTable, 'length' | 'start' | 'end'>,
  selected: Uint8Array,
  stretch: readonly [number, number],
): OwnPress[] {
  const [, to] = stretch;
  const isLetGo = (isSelected: 0 | 1, after: number, until: number) => {
    for (let row = 0; row < notes.length && notes.start[row] < until; row++)
      if (selected[row] === isSelected && notes.end[row] > after && notes.end[row] <= until) return true;
    return false;
  };
  /** A note that is let go at the very tick of a press is held by it. */
  const endsAt = new Set<number>();
  for (let row = 0; row < notes.length; row++) if (selected[row] === 0) endsAt.add(notes.end[row]);
  return ownPresses(
    points,
    stretch,
    ({ end }) => isLetGo(0, to, end),
    ({ start }) => isLetGo(1, start, to),
  ).filter(({ press }) => !endsAt.has(press.start));
}

function editsOf(
  lane: string,
  channel: number,
  points: LanePoints,
  unit: LaneUnit,
  { from, to, reach }: LaneStretch,
  { place, leaves, cut }: Fate,
): CurveEdit[] {
  const [first, stop] = [firstAtOrAfter(points.tick, from), firstAtOrAfter(points.tick, to)];
  const resting = restingRaw(lane);
  const held = (tick: number) => heldValue(points, tick, resting);
  const before = (tick: number) => {
    const row = firstAtOrAfter(points.tick, tick) - 1;
    return row < 0 ? resting : points.value[row];
  };
  const edit = (start: number, end: number, list: [tick: number, raw: number][]): CurveEdit => ({
    lane,
    channel: channel + 1,
    from: Math.max(0, start),
    to: Math.max(0, end),
    points: list
      .filter(([tick]) => tick >= 0)
      .map(([tick, raw]) => ({ at: tick, value: unit.of(raw, tick) })),
  });
  // The old place: emptied, with what holds at its end written there when it would change.
  const cleared = (): CurveEdit[] =>
    first === stop
      ? []
      : [edit(from, to, held(to) === before(from) ? pointsAt(points, to) : [[to, held(to)]])];
  if (!place) return cleared();
  const [start, end] = [place(from), Math.max(place(from) + 1, Math.min(place(reach), cut))];
  const inWay = firstAtOrAfter(points.tick, start) < firstAtOrAfter(points.tick, end);
  if (first === stop && !inWay && held(from) === held(start)) return [];
  const moved: [number, number][] = [];
  for (let row = first; row < stop; row++) {
    const tick = place(points.tick[row]);
    if (tick < end) moved.push([tick, points.value[row]]);
  }
  if (moved[0]?.[0] !== start) moved.unshift([start, held(from)]);
  // What holds after the new place is what held there, unless that is the old place itself.
  const after = end > from && end < to && leaves ? before(from) : held(end);
  const laid = edit(start, end, [...moved, [end, after]]);
  return leaves ? [...cleared(), laid] : [laid];
}

/** The points exactly at a tick. */
function pointsAt(points: LanePoints, at: number): [number, number][] {
  const list: [number, number][] = [];
  for (let row = firstAtOrAfter(points.tick, at); row < points.length && points.tick[row] === at; row++)
    list.push([at, points.value[row]]);
  return list;
}
