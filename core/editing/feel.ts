import { nearestLine, type Grid } from '../time';

/**
 * How what is moved goes by the grid: by its steps, so that it keeps its distance from the lines; onto the lines
 * themselves; or freely.
 */
export const SNAPS = ['steps', 'line', 'off'] as const;
export type Snap = (typeof SNAPS)[number];

const lineAt = (grid: Grid, tick: number) => nearestLine(grid, Math.max(0, tick), { line: 0, step: 0 }).line;

/**
 * Where something that stands at `from` (ticks) comes to when it is brought to `wanted`. By steps it goes from its
 * own line of the grid to another and keeps its distance; a swung line is a line as any. Never below 0.
 */
export function broughtTo(grid: Grid, snap: Snap, from: number, wanted: number): number {
  if (snap === 'off') return Math.max(0, Math.round(wanted));
  if (snap === 'line') return lineAt(grid, wanted);
  const off = from - lineAt(grid, from);
  return Math.max(0, lineAt(grid, wanted - off) + off);
}
