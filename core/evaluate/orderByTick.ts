import { mergeOrder } from '../model';

/** Bits of a tick that one pass sorts by. */
const BITS = 11;
const BUCKETS = 1 << BITS;

/**
 * The rows of a column of whole ticks in order, by tick and then by `compare`. A radix sort by tick (three passes, and fewer where ticks are
 * small) puts a million rows in order for less than reading them costs; rows of one tick are few and sorted among themselves.
 */
export function orderByTick(tick: Float64Array, compare: (a: number, b: number) => number): Uint32Array {
  const { length } = tick;
  let from = new Uint32Array(length);
  let to = new Uint32Array(length);
  let last = 0;
  for (let row = 0; row < length; row++) {
    from[row] = row;
    if (tick[row] > last) last = tick[row];
  }
  // Beyond 32 bits, which no ordinary music comes near, a merge sort does.
  if (last > 0xffffffff) return mergeOrder(length, (a, b) => tick[a] - tick[b] || compare(a, b));
  for (let shift = 0; shift < 32 && last / 2 ** shift >= 1; shift += BITS) {
    const places = new Uint32Array(BUCKETS + 1);
    for (let row = 0; row < length; row++) places[((tick[row] >>> shift) & (BUCKETS - 1)) + 1]++;
    for (let bucket = 0; bucket < BUCKETS; bucket++) places[bucket + 1] += places[bucket];
    for (let at = 0; at < length; at++) {
      const row = from[at];
      to[places[(tick[row] >>> shift) & (BUCKETS - 1)]++] = row;
    }
    [from, to] = [to, from];
  }
  for (let first = 0; first < length;) {
    let end = first + 1;
    while (end < length && tick[from[end]] === tick[from[first]]) end++;
    if (end - first > 1) sortFew(from, first, end, compare);
    first = end;
  }
  return from;
}

function sortFew(rows: Uint32Array, first: number, end: number, compare: (a: number, b: number) => number) {
  if (end - first > 24) {
    rows.subarray(first, end).sort(compare);
    return;
  }
  for (let at = first + 1; at < end; at++) {
    const row = rows[at];
    let place = at;
    for (; place > first && compare(rows[place - 1], row) > 0; place--) rows[place] = rows[place - 1];
    rows[place] = row;
  }
}
