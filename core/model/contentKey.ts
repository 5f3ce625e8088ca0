import { encodeText, payloadOf } from '../midi';
import { createSha256 } from './sha256';
import type { StoredTake } from './take';

/** Formula of today's keys; a key of any other carries its own number, the first none. */
const VERSION = 2;

/**
 * A key that two takes share only when they hold the same events under the same time: the formula's number, and
 * SHA-256 as hex (`2:e3b0...`). How the events lie in memory does not matter.
 */
export function contentKey(take: Omit<StoredTake, 'key'>): string {
  const { events } = take;
  const hash = createSha256();
  hash.update(headOf(take));
  for (const column of [events.tick, events.status, events.data1, events.data2]) hash.update(bytesOf(column));
  const lengths = new Uint32Array(events.length);
  for (let row = 0; row < events.length; row++)
    if (events.payload[row] !== 0) lengths[row] = payloadOf(events, row).length;
  hash.update(bytesOf(lengths));
  for (let row = 0; row < events.length; row++) if (lengths[row] > 0) hash.update(payloadOf(events, row));
  if (take.releases) hash.update(bytesOf(take.releases));
  return `${VERSION}:${hash.digest()}`;
}

/**
 * Whether a stored take still is what its key says, by the formula the key was made with. Never throws, whatever is
 * stored.
 */
export function keepsItsKey(take: StoredTake): boolean {
  try {
    return take.key === (take.key.startsWith(`${VERSION}:`) ? contentKey(take) : firstContentKey(take));
  } catch {
    return false;
  }
}

/**
 * The first formula. It left out which event has which payload, so that takes that differ only in their texts could
 * share a key.
 */
function firstContentKey(take: StoredTake): string {
  const { events } = take;
  const hash = createSha256();
  hash.update(headOf(take));
  for (const column of [
    events.tick,
    events.status,
    events.data1,
    events.data2,
    events.payloadStart,
    events.bytes,
  ]) {
    hash.update(bytesOf(column));
  }
  return hash.digest();
}

function headOf(take: Omit<StoredTake, 'key'>): Uint8Array {
  const { name, division, tempos, meters, endTick, events } = take;
  return encodeText(JSON.stringify([name, division, tempos, meters, endTick, events.length]));
}

function bytesOf(column: Float64Array | Uint8Array | Uint32Array): Uint8Array {
  return new Uint8Array(column.buffer, column.byteOffset, column.byteLength);
}
