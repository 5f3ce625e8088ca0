import type { TakesState } from './useTakes';

/** A bar of the assembled part, 0 being the first, and its spread in ms. */
export interface LooseBar {
  bar: number;
  spreadMs: number;
}

/** The bars of the assembled part, the loosest first; those without notes are left out. */
export function loosestBars({ assembled }: Pick<TakesState, 'assembled'>): LooseBar[] {
  return (assembled?.reading.bars ?? [])
    .map(({ spreadMs }, bar) => ({ bar, spreadMs }))
    .filter(({ spreadMs }) => !Number.isNaN(spreadMs))
    .sort((a, b) => b.spreadMs - a.spreadMs || a.bar - b.bar);
}
