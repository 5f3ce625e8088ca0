/** How strongly a note is inked for its velocity; never so faint that it is lost. */
export function inkOf(velocity: number): number {
  return 0.4 + 0.6 * Math.min(1, velocity / 112);
}
