import { META } from '../midi';
import type { EventColumns } from '../midi';
import { areReleases, type StoredTake } from './take';

/** The largest tick there can be: whole numbers are exact up to it. */
const MOST_TICK = Number.MAX_SAFE_INTEGER;

/**
 * Why a take that came from outside cannot be one, in words that go on “the take is damaged: ...”; null where it can.
 * Its key says that it is what was written; this, that what was written makes sense: every tick a number, in order,
 * every byte one that can be there, every text where it is said to be.
 */
export function faultOfTake({ events, endTick, releases }: StoredTake): string | null {
  const fault = faultOfEvents(events);
  if (fault) return fault;
  const last = events.length === 0 ? 0 : events.tick[events.length - 1];
  if (!isTick(endTick) || endTick < last) return 'its end is not after its last event';
  if (releases && !areReleases(events, releases)) return 'its releases are not those of its notes';
  return null;
}

const isTick = (tick: number): boolean => tick >= 0 && tick <= MOST_TICK;

function faultOfEvents(events: EventColumns): string | null {
  const { length, tick, status, data1, data2, payload, payloadStart, bytes } = events;
  for (const column of [status, data1, data2, payload])
    if (column.length !== length) return 'its columns are not of one length';
  for (let at = 0; at < payloadStart.length; at++)
    if (payloadStart[at] > bytes.length || (at > 0 && payloadStart[at] < payloadStart[at - 1]))
      return 'its texts are not where they are said to be';
  let before = 0;
  for (let row = 0; row < length; row++) {
    if (!isTick(tick[row])) return `event ${row + 1} has no place in time`;
    if (tick[row] < before) return `event ${row + 1} stands before the one it follows`;
    before = tick[row];
    if (!isStatus(status[row])) return `event ${row + 1} is of no kind there is`;
    // The type of a meta event may be any byte.
    const isData = (status[row] === META || data1[row] < 128) && data2[row] < 128;
    if (!isData) return `event ${row + 1} holds a value that cannot be there`;
    if (payload[row] > 0 && payload[row] >= payloadStart.length)
      return `the text of event ${row + 1} is not there`;
  }
  return null;
}

/** Channel messages, system exclusive and its continuation, meta events: what stands in a track (SMF 1.0). */
const isStatus = (status: number): boolean =>
  (status >= 0x80 && status < 0xf0) || status === 0xf0 || status === 0xf7 || status === META;
