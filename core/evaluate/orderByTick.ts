/** Stretches up to this long are sorted by insertion. */
const FEW = 24;
/** As many shelves as rows, within bounds: fewer would cost comparing, more would cost memory. */
const MOST_SHELVES = 1 << 20;
/** Rows are put in order one by one while that costs this many moves a row at most. */
const NEARLY = 12;

/** What rows are put in order by. */
export interface RowOrder {
  /** By this first, a number a row. */
  key: Float64Array;
  /** Rows of one key below this stand in the order of their numbers. */
  places: number;
  /** Where each row from `places` on stands among those: one number each. */
  order: Float64Array;
}

/** Which of two rows of one key comes first. */
export function compareRows({ places, order }: Omit<RowOrder, 'key'>, a: number, b: number): number {
  return (a < places ? a : order[a - places]) - (b < places ? b : order[b - places]) || a - b;
}

/**
 * Puts rows in order, by their key, then by their place; returns the same array. Rows that lie nearly in order, as
 * those of a file do after small moves, are put in place one by one. Else they are laid on shelves by their keys,
 * about one a shelf, and only what shares a shelf is compared; a shelf that is crowded is shelved again by itself. So
 * a million notes are put in order for less than reading them costs, wherever their keys lie.
 */
export function orderByTick(rows: Uint32Array, by: RowOrder): Uint32Array {
  if (!insertRows(rows, 0, rows.length, by, NEARLY * rows.length)) sortStretch(rows, by);
  return rows;
}

function sortStretch(rows: Uint32Array, by: RowOrder): void {
  const keys = new Float64Array(rows.length);
  for (let at = 0; at < rows.length; at++) keys[at] = by.key[rows[at]];
  const { length } = rows;
  let [low, high] = [Infinity, -Infinity];
  for (let at = 0; at < length; at++) {
    const here = keys[at];
    if (here < low) low = here;
    if (here > high) high = here;
  }
  if (low === high) {
    rows.sort((a, b) => compareRows(by, a, b));
    return;
  }
  const shelves = Math.min(MOST_SHELVES, length);
  const scale = (shelves - 1) / (high - low);
  const ends = new Uint32Array(shelves);
  for (let at = 0; at < length; at++) ends[((keys[at] - low) * scale) | 0]++;
  for (let shelf = 1; shelf < shelves; shelf++) ends[shelf] += ends[shelf - 1];
  const laid = new Uint32Array(length);
  // From behind, so that rows keep their order on a shelf, and the ends become the beginnings.
  for (let at = length - 1; at >= 0; at--) laid[--ends[((keys[at] - low) * scale) | 0]] = rows[at];
  rows.set(laid);
  for (let shelf = 0; shelf < shelves; shelf++) {
    const first = ends[shelf];
    const end = shelf + 1 < shelves ? ends[shelf + 1] : length;
    if (end - first < 2) continue;
    if (end - first <= FEW) insertRows(rows, first, end, by, Infinity);
    else sortStretch(rows.subarray(first, end), by);
  }
}

/** Sorts a stretch of rows by insertion; stops and returns false when that takes more moves than `moves`. */
function insertRows(rows: Uint32Array, first: number, end: number, by: RowOrder, moves: number): boolean {
  const { key, places } = by;
  let left = moves;
  for (let at = first + 1; at < end; at++) {
    const row = rows[at];
    const here = key[row];
    let place = at;
    for (; place > first; place--) {
      const before = rows[place - 1];
      if (key[before] < here) break;
      if (key[before] === here) {
        const isInOrder = before < places && row < places ? before < row : compareRows(by, before, row) < 0;
        if (isInOrder) break;
      }
      rows[place] = before;
    }
    if (place === at) continue;
    rows[place] = row;
    left -= at - place;
    if (left < 0) return false;
  }
  return true;
}
