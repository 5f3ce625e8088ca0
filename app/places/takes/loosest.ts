import type { TakeRow } from '@ordle/core';
import type { ProposalSettings } from '@/state/viewSlice';
import { costsOf } from './useProposal';
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

/** Differences of cost that do not count. */
const EQUAL = 1e-9;
/** Takes are called tighter from this many ms on. */
const LEAST_MS = 0.5;

/**
 * A tighter take for a bar, of those that lower what the choices cost altogether by the settings of the proposal: after
 * a proposal was accepted there is none, so going by it never undoes what was proposed. Null where several takes sound
 * together in the bar.
 */
export function tighterTake(
  rows: readonly TakeRow[],
  chosen: readonly Int32Array[],
  bar: number,
  settings: ProposalSettings,
): TakeRow | null {
  const [own, ...added] = chosen;
  if (added.some((layer) => layer[bar] >= 0)) return null;
  const costs = costsOf(rows, settings);
  const now = own[bar];
  const changesWith = (row: number) =>
    Number(bar > 0 && own[bar - 1] !== row) + Number(bar + 1 < own.length && own[bar + 1] !== row);
  const costWith = (row: number) => (costs[bar]?.[row] ?? NaN) + settings.penalty * changesWith(row);
  const spreadOfRow = (row: number) => rows[row]?.reading.bars[bar]?.spreadMs ?? NaN;
  const better = [...rows.keys()].filter(
    (row) => spreadOfRow(row) < spreadOfRow(now) - LEAST_MS && costWith(row) < costWith(now) - EQUAL,
  );
  const best = better.sort((a, b) => spreadOfRow(a) - spreadOfRow(b)).at(0);
  return best === undefined ? null : rows[best];
}
