import { mergeOrder } from '../model';

/** Bits of a tick that one pass sorts by: two passes for any tick. */
const BITS = 16;
const BUCKETS = 1 << BITS;

/** A run of rows, from `from` up to `to`, that is to be merged with others. */
export interface Run {
  from: number;
  to: number;
}

/**
 * The rows of some runs of a column of whole ticks in order, by tick and then by `compare`. Runs that rise already, as strokes and controllers
 * do, are only merged; others are sorted by the digits of their ticks first. So a million notes are put in order for less than reading them
 * costs; rows of one tick are few and sorted among themselves.
 */
export function orderByTick(
  tick: Float64Array,
  runs: readonly Run[],
  compare: (a: number, b: number) => number,
): Uint32Array {
  const rows = merged(
    tick,
    runs.filter(({ from, to }) => to > from).map((run) => sortedRun(tick, run)),
  );
  for (let first = 0; first < rows.length;) {
    const here = tick[rows[first]];
    let end = first + 1;
    while (end < rows.length && tick[rows[end]] === here) end++;
    if (end - first > 1) sortFew(rows, first, end, compare);
    first = end;
  }
  return rows;
}

/** The rows of a run by tick, stable. */
function sortedRun(tick: Float64Array, { from, to }: Run): Uint32Array {
  const rows = new Uint32Array(to - from);
  let last = 0;
  let rises = true;
  for (let row = from; row < to; row++) {
    rows[row - from] = row;
    if (row > from && tick[row] < tick[row - 1]) rises = false;
    if (tick[row] > last) last = tick[row];
  }
  if (rises) return rows;
  // Beyond 32 bits, which no ordinary music comes near, a merge sort does.
  if (last > 0xffffffff)
    return mergeOrder(rows.length, (a, b) => tick[from + a] - tick[from + b]).map((row) => from + row);
  let [source, target] = [rows, new Uint32Array(rows.length)];
  for (let shift = 0; shift < 32 && last / 2 ** shift >= 1; shift += BITS) {
    const places = new Uint32Array(BUCKETS + 1);
    for (let row = from; row < to; row++) places[((tick[row] >>> shift) & (BUCKETS - 1)) + 1]++;
    for (let bucket = 0; bucket < BUCKETS; bucket++) places[bucket + 1] += places[bucket];
    for (let at = 0; at < source.length; at++) {
      const row = source[at];
      target[places[(tick[row] >>> shift) & (BUCKETS - 1)]++] = row;
    }
    [source, target] = [target, source];
  }
  return source;
}

/** Several sorted lists as one, two and two. */
function merged(tick: Float64Array, lists: Uint32Array[]): Uint32Array {
  if (lists.length === 0) return new Uint32Array(0);
  let round = [...lists].sort((a, b) => a.length - b.length);
  while (round.length > 1) {
    const [a, b, ...rest] = round;
    round = [...rest, mergedTwo(tick, a, b)].sort((x, y) => x.length - y.length);
  }
  return round[0];
}

function mergedTwo(tick: Float64Array, a: Uint32Array, b: Uint32Array): Uint32Array {
  const rows = new Uint32Array(a.length + b.length);
  let [left, right] = [0, 0];
  for (let at = 0; at < rows.length; at++) {
    const takesLeft = right >= b.length || (left < a.length && tick[a[left]] <= tick[b[right]]);
    rows[at] = takesLeft ? a[left++] : b[right++];
  }
  return rows;
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
