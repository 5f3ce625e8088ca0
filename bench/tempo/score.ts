/**
 * Seconds within which a beat counts as found, and from where on beats are scored: players and trackers need a
 * moment.
 */
const WINDOW = 0.07;
const FROM = 5;

/**
 * F-measure of beats (Dixon 2007; Davies, Degara, Plumbley 2009): found beats are matched with meant ones one to one
 * within 70 ms; twice the matches over both counts. Beats before `from` seconds are left out.
 */
export function fMeasure(found: ArrayLike<number>, meant: ArrayLike<number>, from = FROM): number {
  const [a, b] = [found, meant].map((list) => Array.from(list).filter((at) => at >= from));
  if (a.length === 0 || b.length === 0) return a.length === b.length ? 1 : 0;
  let [matches, first] = [0, 0];
  for (const at of b) {
    while (first < a.length && a[first] < at - WINDOW) first++;
    if (first < a.length && a[first] <= at + WINDOW) {
      matches++;
      first++;
    }
  }
  return (2 * matches) / (a.length + b.length);
}

/** The best F-measure at any allowed level: as meant, twice, half (either of two), off the beat. */
export function fAtAnyLevel(found: Float64Array, meant: Float64Array): number {
  const between = Float64Array.from(meant.subarray(1), (at, beat) => (at + meant[beat]) / 2);
  const twice = Float64Array.from([...meant, ...between]).sort();
  return Math.max(
    ...[
      meant,
      between,
      twice,
      meant.filter((_, at) => at % 2 === 0),
      meant.filter((_, at) => at % 2 === 1),
    ].map((level) => fMeasure(found, level)),
  );
}
