/** Stretches up to this long are sorted by insertion. */
const FEW = 24;
/** As many shelves as rows, within bounds: fewer would cost comparing, more would cost memory. */
const MOST_SHELVES = 1 << 20;
/** Rows are put in order one by one while that costs this many moves a row at most. */
const NEARLY = 12;

/**
 * Puts rows in order, by tick, then by `order`, then by row; returns the same array. Rows that lie nearly in order, as those of a file do after small
 * moves, are put in place one by one. Else they are laid on shelves by their ticks, about one a shelf, and only what shares a shelf is compared; a shelf
 * that is crowded is shelved again by itself. So a million notes are put in order for less than reading them costs, wherever their ticks lie.
 */
export function orderByTick(rows: Uint32Array, tick: Float64Array, order: Float64Array): Uint32Array {
  if (!insertRows(rows, 0, rows.length, tick, order, NEARLY * rows.length))
    sortStretch(
      rows,
      Float64Array.from(rows, (row) => tick[row]),
      tick,
      order,
    );
  return rows;
}

/** Sorts rows whose ticks, in the order in which they lie, are `ticks`. */
function sortStretch(rows: Uint32Array, ticks: Float64Array, tick: Float64Array, order: Float64Array): void {
  const { length } = rows;
  let [low, high] = [Infinity, -Infinity];
  for (let at = 0; at < length; at++) {
    const here = ticks[at];
    if (here < low) low = here;
    if (here > high) high = here;
  }
  if (low === high) {
    rows.sort((a, b) => order[a] - order[b] || a - b);
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
    if (end - first <= FEW) insertRows(rows, first, end, tick, order, Infinity);
    else {
      const crowd = rows.subarray(first, end);
      sortStretch(
        crowd,
        Float64Array.from(crowd, (row) => tick[row]),
        tick,
        order,
      );
    }
  }
}

/** Sorts a stretch of rows by insertion; stops and returns false when that takes more moves than `moves`. */
function insertRows(
  rows: Uint32Array,
  first: number,
  end: number,
  tick: Float64Array,
  order: Float64Array,
  moves: number,
): boolean {
  let left = moves;
  for (let at = first + 1; at < end; at++) {
    const row = rows[at];
    const here = tick[row];
    let place = at;
    for (; place > first; place--) {
      const before = rows[place - 1];
      if (tick[before] < here) break;
      if (tick[before] === here) {
        const later = order[before] - order[row];
        if (later < 0 || (later === 0 && before < row)) break;
      }
      rows[place] = before;
    }
    rows[place] = row;
    left -= at - place;
    if (left < 0) return false;
  }
  return true;
}
