import type { Box } from './region';

/** Pixels within an edge at which scrolling begins, and the most a frame. */
export const EDGE = 18;
const MOST = 22;

/**
 * How far what is in sight moves in a frame while a gesture is held at a place: pixels to the right and down, more
 * the farther it is beyond `edge` pixels within the edge.
 */
export function overshoot(
  { left, top, right, bottom }: Box,
  x: number,
  y: number,
  edge = EDGE,
): [number, number] {
  const along = (place: number, low: number, high: number) => {
    // A region smaller than its edges does not scroll by itself.
    if (high - low < 4 * EDGE) return 0;
    const beyond = place < low + edge ? place - low - edge : place > high - edge ? place - high + edge : 0;
    return Math.max(-MOST, Math.min(MOST, beyond / 3));
  };
  return [along(x, left, right), along(y, top, bottom)];
}
