import type { EventColumns } from '../midi';
import type { NoteTable } from '../model';
import { lastAtOrBefore } from '../time';
import { readLane, type LanePoints } from './lane';

/** Values from here on are a pedal pressed (MIDI 1.0: 0-63 up, 64-127 down). */
export const PEDAL_DOWN = 64;

/**
 * One press of a pedal: from the tick it goes down to the tick it comes up (infinite when it never does), how far it goes down
 * (64-127), and its points, the releasing one included.
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
 * For each note the tick to which the sustain pedal of its channel holds it, when its key is let go (at `end`) while the pedal is down; else
 * `end` itself. A pedal that never comes up holds nothing: there is no tick to name.
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
