import { createEventBuilder, pickEvents, type EventColumns } from '../midi';
import { mergeOrder } from '../model';
import { bytesOfPoint, laneKind, type LanePoints } from './lane';

/** New points for a lane on a channel, in place of all it had. */
export interface LaneChange {
  lane: string;
  channel: number;
  points: LanePoints;
}

/**
 * The events with some lanes replaced. A point that came from an event and stands where it stood keeps that event's
 * place among others at its tick; a new one comes before them, so that it holds for a note that starts there. Points
 * of a lane at one tick stay in the order given. The very same events when nothing differs.
 */
export function writeLanes(events: EventColumns, changes: readonly LaneChange[]): EventColumns {
  const gone = new Uint8Array(events.length);
  let goneCount = 0;
  for (const { lane, channel } of changes) {
    const { status, controller } = laneKind(lane);
    for (let row = 0; row < events.length; row++)
      if (events.status[row] === (status | channel) && (controller < 0 || events.data1[row] === controller)) {
        gone[row] = 1;
        goneCount++;
      }
  }
  const builder = createEventBuilder(changes.reduce((sum, { points }) => sum + points.length, 0));
  const order: number[] = [];
  let differs = false;
  let kept = 0;
  for (const { lane, channel, points } of changes) {
    for (let at = 0; at < points.length; at++) {
      const follows = at > 0 && points.tick[at - 1] === points.tick[at];
      const [status, data1, data2] = bytesOfPoint(lane, channel, points.value[at]);
      const row = points.row[at];
      const same = row >= 0 && gone[row] === 1 && events.tick[row] === points.tick[at];
      builder.add(Math.max(0, points.tick[at]), status, data1, data2);
      // Points of a lane at one tick keep their order: a release stays before the press that renews it.
      order.push(Math.max(same ? row : -1, follows ? order[order.length - 1] : -1));
      if (same) kept++;
      differs ||=
        !same || events.data1[row] !== data1 || events.data2[row] !== data2 || events.status[row] !== status;
    }
  }
  if (!differs && kept === goneCount) return events;
  const rest = new Uint32Array(events.length - goneCount);
  for (let row = 0, at = 0; row < events.length; row++) if (gone[row] === 0) rest[at++] = row;
  const fresh = builder.build();
  // Payloads belong to events of no channel, which are never points: the old columns can be carried on.
  const whole = concat(pickEvents(events, rest), fresh);
  const ranks = new Float64Array(whole.length);
  ranks.set(rest);
  ranks.set(order, rest.length);
  const rows = mergeOrder(whole.length, (a, b) => whole.tick[a] - whole.tick[b] || ranks[a] - ranks[b]);
  return pickEvents(whole, rows);
}

function concat(a: EventColumns, b: EventColumns): EventColumns {
  const join = <T extends Float64Array | Uint8Array | Uint32Array>(made: T, first: T, second: T): T => {
    made.set(first);
    made.set(second, first.length);
    return made;
  };
  const length = a.length + b.length;
  return {
    length,
    tick: join(new Float64Array(length), a.tick, b.tick),
    status: join(new Uint8Array(length), a.status, b.status),
    data1: join(new Uint8Array(length), a.data1, b.data1),
    data2: join(new Uint8Array(length), a.data2, b.data2),
    payload: join(new Uint32Array(length), a.payload, b.payload),
    payloadStart: a.payloadStart,
    bytes: a.bytes,
  };
}
