import { createEventBuilder, payloadOf, pickEvents, type EventColumns } from '../midi';
import { mergeOrder } from './noteTable';

/** Events with their order among equals at a tick. */
export interface OrderedEvents {
  events: EventColumns;
  order: Float64Array;
}

/** Several lists of events as one, sorted by tick and then by order. A single list comes back as it is. */
export function joinEvents(lists: readonly OrderedEvents[]): OrderedEvents {
  if (lists.length === 1) return lists[0];
  const builder = createEventBuilder(lists.reduce((sum, { events }) => sum + events.length, 0));
  const order: number[] = [];
  for (const list of lists) {
    const { events } = list;
    for (let row = 0; row < events.length; row++) {
      const payload = events.payload[row] === 0 ? undefined : payloadOf(events, row);
      builder.add(events.tick[row], events.status[row], events.data1[row], events.data2[row], payload);
      order.push(list.order[row]);
    }
  }
  const joined = builder.build();
  const rows = mergeOrder(joined.length, (a, b) => joined.tick[a] - joined.tick[b] || order[a] - order[b]);
  return { events: pickEvents(joined, rows), order: Float64Array.from(rows, (row) => order[row]) };
}
