/**
 * A number 0-1 that depends only on its arguments, so that a note gets the same chance whatever other notes are
 * there. `id` is a whole number below 2^53; its upper part counts only where there is one, so that ids of 32 bits
 * draw what they always drew. Mixing by the finalizer of MurmurHash3 (public domain).
 */
export function chanceOf(seed: number, id: number, stream: number): number {
  const high = Math.floor(id / 2 ** 32);
  let mixed =
    (Math.imul(seed | 0, 0x9e3779b1) ^
      Math.imul((id | 0) ^ Math.imul(high, 0x27d4eb2f), 0x85ebca6b) ^
      Math.imul(stream + 1, 0xc2b2ae35)) >>>
    0;
  mixed = Math.imul(mixed ^ (mixed >>> 16), 0x85ebca6b);
  mixed = Math.imul(mixed ^ (mixed >>> 13), 0xc2b2ae35);
  return ((mixed ^ (mixed >>> 16)) >>> 0) / 4294967296;
}

/** A normally distributed number (Box and Muller 1958) of mean 0 and deviation 1, cut off at `limit` deviations. */
export function normalOf(seed: number, id: number, stream: number, limit: number): number {
  const radius = Math.sqrt(-2 * Math.log(1 - chanceOf(seed, id, 2 * stream)));
  const value = radius * Math.cos(2 * Math.PI * chanceOf(seed, id, 2 * stream + 1));
  return Math.max(-limit, Math.min(limit, value));
}
