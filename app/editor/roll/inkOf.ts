/** How strongly a note is inked for its velocity; never so faint that it is lost. */
export function inkOf(velocity: number): number {
  return 0.75 + 0.25 * Math.min(1, velocity / 112);
}
