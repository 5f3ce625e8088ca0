import { SET_UP_LANES, heldValue, lanesIn, readLane, restingRaw, type LanePoints } from '../curves';
import type { EventColumns } from '../midi';
import { rowsNamed, type NoteTable } from '../model';
import { firstAtOrAfter } from '../time';
import { laneUnit, type CurveEdit, type LaneUnit } from '../steps';

/** Whether a lane's points go along with notes; the pressure of single keys does so by itself, being part of its note. */
export const goesAlong = (lane: string): boolean => !SET_UP_LANES.has(lane) && !lane.startsWith('key');

/** What is done to notes: moved or copied by some ticks, or deleted. */
export type AlongAction =
  { kind: 'move'; ticks: number } | { kind: 'copy'; ticks: number; semitones?: number } | { kind: 'delete' };

/**
 * The stretches of time whose controllers belong to some notes: between their first start and last end, where no other note of
 * the channel sounds. Each from its first tick up to, not including, its second. `selected` has a byte a row.
 */
export function stretchesOf(
  notes: Pick<NoteTable, 'length' | 'start' | 'end'>,
  selected: Uint8Array,
): [number, number][] {
  let [from, to] = [Infinity, -Infinity];
  for (let row = 0; row < notes.length; row++) {
    if (selected[row] === 0) continue;
    from = Math.min(from, notes.start[row]);
    to = Math.max(to, notes.end[row]);
  }
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
 * Edits that take the controllers of some notes along with what is done to them. At every seam the value that would be in force without the
 * change is written, so that nothing jumps: what follows the old place and the new one sounds as before.
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
  const curves = lanesIn(events)
    .map(({ lane }) => lane)
    .filter(goesAlong)
    .flatMap((lane) => {
      const points = readLane(events, lane, channel);
      const unit = laneUnit(events, lane, channel);
      return stretches.flatMap((stretch) => editsOf(lane, channel, points, unit, stretch, action));
    });
  return [...curves, ...pressure];
}

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

/** The pressure on its key while each selected note sounds (a byte a row), for the notes that have some. `channel` is 0-15. */
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

function editsOf(
  lane: string,
  channel: number,
  points: LanePoints,
  unit: LaneUnit,
  [from, to]: [number, number],
  action: AlongAction,
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
  if (action.kind === 'delete') return cleared();
  const [start, end] = [from + action.ticks, to + action.ticks];
  const inWay = firstAtOrAfter(points.tick, start) < firstAtOrAfter(points.tick, end);
  if (first === stop && !inWay && held(from) === held(start)) return [];
  const moved: [number, number][] = [];
  for (let row = first; row < stop; row++) moved.push([points.tick[row] + action.ticks, points.value[row]]);
  if (moved[0]?.[0] !== start) moved.unshift([start, held(from)]);
  // What holds after the new place is what held there, unless that is the old place itself.
  const after = end > from && end < to && action.kind === 'move' ? before(from) : held(end);
  const laid = edit(start, end, [...moved, [end, after]]);
  return action.kind === 'copy' ? [laid] : [...cleared(), laid];
}

/** The points exactly at a tick. */
function pointsAt(points: LanePoints, at: number): [number, number][] {
  const list: [number, number][] = [];
  for (let row = firstAtOrAfter(points.tick, at); row < points.length && points.tick[row] === at; row++)
    list.push([at, points.value[row]]);
  return list;
}
