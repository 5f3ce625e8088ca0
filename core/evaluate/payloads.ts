import type { EventColumns } from '../midi';

/** The payloads of several lists of events behind one another; `first[k]` is added to the payload numbers of list k. */
export function joinPayloads(lists: readonly EventColumns[]) {
  // Often all come from one file and share their bytes already.
  const shared = lists.find(({ payloadStart }) => payloadStart.length > 1);
  const others = lists.filter((list) => list.payloadStart.length > 1 && list.bytes !== shared?.bytes);
  if (
    shared &&
    others.length === 0 &&
    lists.every((list) => list.payloadStart.length <= 1 || list.payloadStart === shared.payloadStart)
  )
    return { first: lists.map(() => 0), payloadStart: shared.payloadStart, bytes: shared.bytes };
  const bytes = new Uint8Array(lists.reduce((sum, list) => sum + list.bytes.length, 0));
  const starts: number[] = [];
  const first: number[] = [];
  let at = 0;
  for (const list of lists) {
    first.push(starts.length);
    bytes.set(list.bytes, at);
    for (const start of list.payloadStart) starts.push(at + start);
    at += list.bytes.length;
  }
  if (starts.length === 0) starts.push(0);
  return { first, payloadStart: Uint32Array.from(starts), bytes };
}
