import type { EventColumns } from '../midi';
import type { NoteTable } from '../model';
import { lastAtOrBefore } from '../time';
import { readLane, type LanePoints } from './lane';

/** Lanes that hold presses rather than curves: sustain, sostenuto and soft pedal. */
export const PEDAL_LANES: ReadonlySet<string> = new Set(['cc64', 'cc66', 'cc67']);

/** Values from here on are a pedal pressed (MIDI 1.0: 0-63 up, 64-127 down). */
export const PEDAL_DOWN = 64;

/**
 * One press of a pedal: from the tick it goes down to the tick it comes up (infinite when it never does), how far it
 * goes down (64-127), and its points, the releasing one included.
 */
export interface PedalSpan {
  start: number;
  end: number;
  depth: number;
  /** Rows of the lane's points: from `first` up to, not including, `stop`. */
  first: number;
  stop: number;
}

/** The presses in the points of a pedal's controller. */
export function pedalSpans(points: LanePoints): PedalSpan[] {
  const spans: PedalSpan[] = [];
  let open: PedalSpan | null = null;
  for (let row = 0; row < points.length; row++) {
    const down = points.value[row] >= PEDAL_DOWN;
    if (down && !open) {
      open = {
        start: points.tick[row],
        end: Infinity,
        depth: points.value[row],
        first: row,
        stop: points.length,
      };
    } else if (down && open) open.depth = Math.max(open.depth, points.value[row]);
    else if (open) {
      spans.push({ ...open, end: points.tick[row], stop: row + 1 });
      open = null;
    }
  }
  if (open) spans.push(open);
  return spans;
}

/**
 * Every move of the foot as a whole: from where the pedal leaves 0 to where it is back, with the slopes of a press on
 * either side of the values that count as down, and half presses that never do. Where the foot presses again without
 * going back to 0, the one ends and the next begins at the least value between: its point belongs to the next.
 */
export function footMoves(points: LanePoints): PedalSpan[] {
  const moves: PedalSpan[] = [];
  const put = (first: number, stop: number, end: number) => {
    let depth = 0;
    for (let row = first; row < stop; row++) depth = Math.max(depth, points.value[row]);
    moves.push({ start: points.tick[first], end, depth, first, stop });
  };
  let first = -1;
  /** Row of the least value since the pedal was last down, while it was down before; -1 else. */
  let least = -1;
  let wasDown = false;
  for (let row = 0; row < points.length; row++) {
    const value = points.value[row];
    if (first < 0) {
      if (value > 0) [first, least, wasDown] = [row, -1, value >= PEDAL_DOWN];
      continue;
    }
    if (value === 0) {
      put(first, row + 1, points.tick[row]);
      first = -1;
    } else if (value < PEDAL_DOWN) {
      if (wasDown && (least < 0 || value < points.value[least])) least = row;
    } else {
      if (wasDown && least >= 0) {
        put(first, least, points.tick[least]);
        first = least;
      }
      [least, wasDown] = [-1, true];
    }
  }
  if (first >= 0) put(first, points.length, Infinity);
  return moves;
}

/**
 * For each note the tick to which the sustain pedal of its channel holds it, when its key is let go (at `end`) while
 * the pedal is down; else `end` itself. A pedal that never comes up holds nothing: there is no tick to name.
 */
export function pedalledEnds(notes: NoteTable, end: Float64Array, events: EventColumns): Float64Array {
  const rings = end.slice();
  const lanes = new Map<number, { spans: PedalSpan[]; starts: Float64Array }>();
  for (let row = 0; row < notes.length; row++) {
    const channel = notes.channel[row];
    let lane = lanes.get(channel);
    if (!lane) {
      const spans = pedalSpans(readLane(events, 'cc64', channel));
      lane = { spans, starts: Float64Array.from(spans, ({ start }) => start) };
      lanes.set(channel, lane);
    }
    if (lane.spans.length === 0) continue;
    const press = lane.spans[lastAtOrBefore(lane.starts, end[row])];
    if (press.start <= end[row] && press.end > end[row] && press.end !== Infinity) rings[row] = press.end;
  }
  return rings;
}
