/** Stretches up to this long are sorted by insertion. */
const FEW = 24;
/** As many shelves as rows, within bounds: fewer would cost comparing, more would cost memory. */
const MOST_SHELVES = 1 << 20;

type Compare = (a: number, b: number) => number;

/**
 * The rows of a column of ticks in order, by tick and then by `compare`, which must tell any two rows apart. Rows are laid on shelves by their ticks,
 * about one a shelf, and only what shares a shelf is compared; a shelf that is crowded is shelved again by itself. So a million notes are put in order
 * for less than reading them costs, wherever their ticks lie.
 */
export function orderByTick(tick: Float64Array, compare: Compare): Uint32Array {
  const rows = new Uint32Array(tick.length);
  for (let row = 0; row < rows.length; row++) rows[row] = row;
  sortStretch(rows, tick, tick, compare);
  return rows;
}

/** Sorts rows whose ticks, in the order in which they lie, are `ticks`. */
function sortStretch(rows: Uint32Array, ticks: Float64Array, tick: Float64Array, compare: Compare): void {
  const { length } = rows;
  let [low, high] = [Infinity, -Infinity];
  for (let at = 0; at < length; at++) {
    const here = ticks[at];
    if (here < low) low = here;
    if (here > high) high = here;
  }
  if (low === high) {
    rows.sort(compare);
    return;
  }
  const shelves = Math.min(MOST_SHELVES, length);
  const scale = (shelves - 1) / (high - low);
  const ends = new Uint32Array(shelves);
  for (let at = 0; at < length; at++) ends[((ticks[at] - low) * scale) | 0]++;
  for (let shelf = 1; shelf < shelves; shelf++) ends[shelf] += ends[shelf - 1];
  const laid = new Uint32Array(length);
  // From behind, so that rows keep their order on a shelf, and the ends become the beginnings.
  for (let at = length - 1; at >= 0; at--) laid[--ends[((ticks[at] - low) * scale) | 0]] = rows[at];
  rows.set(laid);
  for (let shelf = 0; shelf < shelves; shelf++) {
    const first = ends[shelf];
    const end = shelf + 1 < shelves ? ends[shelf + 1] : length;
    if (end - first < 2) continue;
    if (end - first <= FEW) insertFew(rows, first, end, tick, compare);
    else {
      const crowd = rows.subarray(first, end);
      sortStretch(
        crowd,
        Float64Array.from(crowd, (row) => tick[row]),
        tick,
        compare,
      );
    }
  }
}

function insertFew(rows: Uint32Array, first: number, end: number, tick: Float64Array, compare: Compare) {
  for (let at = first + 1; at < end; at++) {
    const row = rows[at];
    const here = tick[row];
    let place = at;
    for (; place > first; place--) {
      const before = rows[place - 1];
      if (tick[before] < here || (tick[before] === here && compare(before, row) <= 0)) break;
      rows[place] = before;
    }
    rows[place] = row;
  }
}
