import { createEventBuilder, pickEvents, type EventColumns } from '../midi';
import { mergeOrder } from '../model';
import type { StepContext } from './stepKind';

/**
 * The channel messages of a part and of those beside it as one list in order of time; the part's own come last at a
 * tick, so that they count.
 */
export function channelEvents(own: EventColumns, beside: readonly EventColumns[]): EventColumns {
  if (beside.length === 0) return own;
  const builder = createEventBuilder(own.length);
  for (const events of [...beside, own])
    for (let row = 0; row < events.length; row++)
      if (events.status[row] < 0xf0)
        builder.add(events.tick[row], events.status[row], events.data1[row], events.data2[row]);
  const all = builder.build();
  return pickEvents(
    all,
    mergeOrder(all.length, (a, b) => all.tick[a] - all.tick[b]),
  );
}

/** The events of the parts beside, where there are any. */
export const eventsOf = (beside: StepContext['beside']): EventColumns[] =>
  (beside?.() ?? []).flatMap(({ events }) => (events.length > 0 ? [events] : []));
