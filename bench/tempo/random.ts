/** Chances that are the same each time for the same seed. */
export interface Random {
  /** Evenly from 0 up to 1. */
  next(): number;
  /** Standard normal. */
  normal(): number;
}

/** A small generator (mulberry32, public domain) with a normal source on it. */
export function createRandom(seed: number): Random {
  let state = (seed * 2654435761) >>> 0;
  const next = () => {
    state = (state + 0x6d2b79f5) >>> 0;
    let mixed = Math.imul(state ^ (state >>> 15), 1 | state);
    mixed = (mixed + Math.imul(mixed ^ (mixed >>> 7), 61 | mixed)) ^ mixed;
    return ((mixed ^ (mixed >>> 14)) >>> 0) / 4294967296;
  };
  return {
    next,
    normal: () => Math.sqrt(-2 * Math.log(1 - next())) * Math.cos(2 * Math.PI * next()),
  };
}
