/** Least value of some items; Infinity of none. `Math.min(...list)` throws on lists of some 100,000. */
export function leastOf<T>(items: readonly T[], of: (item: T) => number): number {
  let least = Infinity;
  for (const item of items) least = Math.min(least, of(item));
  return least;
}

/** Greatest value of some items; -Infinity of none. */
export function greatestOf<T>(items: readonly T[], of: (item: T) => number): number {
  let greatest = -Infinity;
  for (const item of items) greatest = Math.max(greatest, of(item));
  return greatest;
}
