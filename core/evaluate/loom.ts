import type { EventColumns } from '../midi';
import { orderByTick } from './orderByTick';

/**
 * Columns being filled: events, and the order of each among those of its tick: its old place, or before or after all
 * others. Rows of one part lie where they were played as far as they can, so that most are in order already; a row
 * that holds nothing has the bytes 0.
 */
export interface Loom {
  /** Rows below this are places in what was played, and of equals they stand in the order of their numbers. */
  places: number;
  /** The next row of those behind them. */
  next: number;
  tick: Float64Array;
  /**
   * When it comes at its tick (see below), status, first and second data byte of a row as one number; negative where
   * it is the place of an event with a payload in the list of those.
   */
  bytes: Int32Array;
  /** Where each row from `places` on stands among equals. */
  order: Float64Array;
  /** The bytes and the payload's number of events that have one: they are few, and no note does. */
  extras: { bytes: number; payload: number }[];
}

/** Added to the place of an event with a payload. */
export const EXTRA = -(2 ** 31);

/** When something comes at its tick: a moved release before all else, a moved stroke after. */
export const [BEFORE, IN_PLACE, AFTER] = [1 << 24, 2 << 24, 3 << 24];

/** The same of a row as a number from 1 to 3; what has a payload stays in its place. */
const whenOf = (bytes: number) => (bytes < 0 ? 2 : bytes >> 24);

/** What rows are put in order by first. */
export const keyOf = ({ tick, bytes }: Loom, row: number): number => 4 * tick[row] + whenOf(bytes[row]);

/** An empty loom with so many places, for so many rows. */
export function createLoom(places: number, count: number): Loom {
  // With places most rows lie there; memory for others is had when it is needed.
  const behind = places > 0 ? 0 : count;
  return {
    places,
    next: places,
    tick: new Float64Array(places + behind),
    bytes: new Int32Array(places + behind),
    extras: [],
    order: new Float64Array(behind),
  };
}

/** A row behind all places, for what stands at this order among what is equal. */
export function rowBehind(loom: Loom, order: number): number {
  const { places, next } = loom;
  if (next === loom.tick.length) {
    const behind = 2 * (next - places) + 64;
    const grown = <T extends Float64Array | Int32Array>(to: T, from: T): T => (to.set(from), to);
    loom.tick = grown(new Float64Array(places + behind), loom.tick);
    loom.bytes = grown(new Int32Array(places + behind), loom.bytes);
    loom.order = grown(new Float64Array(behind), loom.order);
  }
  loom.order[next - places] = order;
  loom.next++;
  return next;
}

/**
 * The row for something of this order: its place, if there is one and it is free, else one that remembers the order.
 */
export const rowFor = (loom: Loom, order: number): number =>
  order >= 0 && order < loom.places && loom.bytes[order] === 0 ? order : rowBehind(loom, order);

/** The rows that hold something. */
function rowsIn({ bytes, next }: Loom): Uint32Array {
  const rows = new Uint32Array(next);
  let count = 0;
  for (let row = 0; row < next; row++) if (bytes[row] !== 0) rows[count++] = row;
  return rows.subarray(0, count);
}

/**
 * What a loom holds as events, in order; where it is to be tracked, also the place among them of what each row held.
 */
export function takenOut(
  loom: Loom,
  payloads: Pick<EventColumns, 'payloadStart' | 'bytes'>,
  isTracked = false,
): { events: EventColumns; placeOf: Uint32Array } {
  const length = loom.next === loom.places && !isTracked ? sortedInPlace(loom) : null;
  if (length !== null) return { events: columnsOf(loom, length, payloads), placeOf: NO_ROWS };
  const { places, next, order, tick, bytes } = loom;
  const key = new Float64Array(next);
  for (let row = 0; row < next; row++) key[row] = keyOf(loom, row);
  const rows = orderByTick(rowsIn(loom), { key, places, order });
  const [ticks, packed] = [new Float64Array(rows.length), new Int32Array(rows.length)];
  for (let at = 0; at < rows.length; at++) [ticks[at], packed[at]] = [tick[rows[at]], bytes[rows[at]]];
  const placeOf = isTracked ? new Uint32Array(next) : NO_ROWS;
  if (isTracked) rows.forEach((row, at) => (placeOf[row] = at));
  return { events: columnsOf({ ...loom, tick: ticks, bytes: packed }, rows.length, payloads), placeOf };
}

const NO_ROWS = new Uint32Array(0);

/** The first rows of a loom as events. Its ticks are taken as they are: memory for more costs as much as filling it. */
function columnsOf(
  { tick, bytes, extras }: Loom,
  length: number,
  { payloadStart, bytes: payloadBytes }: Pick<EventColumns, 'payloadStart' | 'bytes'>,
): EventColumns {
  const [status, data1, data2] = [new Uint8Array(length), new Uint8Array(length), new Uint8Array(length)];
  const payload = new Uint32Array(length);
  for (let at = 0; at < length; at++) {
    let packed = bytes[at];
    if (packed < 0) {
      const extra = extras[packed - EXTRA];
      payload[at] = extra.payload;
      packed = extra.bytes;
    }
    status[at] = packed >> 16;
    data1[at] = packed >> 8;
    data2[at] = packed;
  }
  const ticks = tick.length === length ? tick : tick.subarray(0, length);
  return { length, tick: ticks, status, data1, data2, payload, payloadStart, bytes: payloadBytes };
}

/** Rows are put in order where they lie while that costs this many moves a row at most. */
const NEARLY = 12;

/**
 * Puts rows that all lie in their places in order without going through a list of rows: nothing is behind them, so
 * that what is equal stays as it lies. Returns how many there are; null where too much would have to be moved, with
 * all that was moved so far in an order that is still true.
 */
function sortedInPlace({ tick, bytes, places }: Loom): number | null {
  let left = NEARLY * places;
  let count = 0;
  for (let row = 0; row < places; row++) {
    const packed = bytes[row];
    if (packed === 0) continue;
    const here = tick[row];
    let at = count;
    for (; at > 0; at--) {
      const before = tick[at - 1];
      if (before < here || (before === here && whenOf(bytes[at - 1]) <= whenOf(packed))) break;
      tick[at] = before;
      bytes[at] = bytes[at - 1];
    }
    tick[at] = here;
    bytes[at] = packed;
    left -= count++ - at;
    if (left < 0) {
      bytes.fill(0, count, row + 1);
      return null;
    }
  }
  return count;
}
