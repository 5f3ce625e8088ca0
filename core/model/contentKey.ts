import { encodeText } from '../midi';
import { createSha256 } from './sha256';
import type { StoredTake } from './take';

/** A key that two takes share only when they hold the same events under the same time: SHA-256, as hex. */
export function contentKey(take: Omit<StoredTake, 'key'>): string {
  const { events } = take;
  const hash = createSha256();
  const head = JSON.stringify([
    take.name,
    take.division,
    take.tempos,
    take.meters,
    take.endTick,
    events.length,
  ]);
  hash.update(encodeText(head));
  for (const column of [
    events.tick,
    events.status,
    events.data1,
    events.data2,
    events.payloadStart,
    events.bytes,
  ]) {
    hash.update(new Uint8Array(column.buffer, column.byteOffset, column.byteLength));
  }
  return hash.digest();
}
