/** Index of the last value <= `value` in an ascending column; 0 when all are larger. */
export function lastAtOrBefore(column: ArrayLike<number>, value: number): number {
  let low = 0;
  let high = column.length - 1;
  while (low < high) {
    const middle = (low + high + 1) >> 1;
    if (column[middle] <= value) low = middle;
    else high = middle - 1;
  }
  return low;
}

/** Index of the first value >= `value` in an ascending column; its length when all are smaller. */
export function firstAtOrAfter(column: ArrayLike<number>, value: number, length = column.length): number {
  let low = 0;
  let high = length;
  while (low < high) {
    const middle = (low + high) >> 1;
    if (column[middle] < value) low = middle + 1;
    else high = middle;
  }
  return low;
}
