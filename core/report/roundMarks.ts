/**
 * Round values for an axis that 0 lies on and that all given values lie within: steps of 1, 2 or 5 times a power of
 * ten, five at most from 0 to the farther end. `whole` is for values that are counted. Without `fromZero` the axis
 * goes from about the least to about the greatest value, five steps at most between them.
 */
export function roundMarks(
  values: readonly (number | null)[],
  whole: boolean,
  fromZero: boolean = true,
): number[] {
  const [low, high] = values.reduce<[number, number]>(
    ([least, most], value) =>
      value === null ? [least, most] : [Math.min(least, value), Math.max(most, value)],
    fromZero || values.every((value) => value === null) ? [0, 0] : [Infinity, -Infinity],
  );
  const farthest = (fromZero ? Math.max(high, -low) : high - low) || 1;
  const power = 10 ** Math.floor(Math.log10(farthest / 5));
  const fitting = [1, 2, 5, 10].find((times) => farthest / (times * power) <= 5) ?? 10;
  const step = whole ? Math.max(1, fitting * power) : fitting * power;
  const [first, last] = [Math.floor(low / step), Math.ceil(high / step)];
  return Array.from({ length: Math.max(1, last - first) + 1 }, (_, at) =>
    Number(((first + at) * step).toPrecision(12)),
  );
}
