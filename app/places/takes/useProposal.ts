import { cheapest, costsBy, type BarCosts, type Wanted, type TakeRow } from '@ordle/core';
import { useMemo, useState } from 'react';
import { useLocation } from 'react-router';
import { store, useAppDispatch, useAppSelector } from '@/state/store';
import { viewChanged, type ProposalSettings } from '@/state/viewSlice';

/** A take for each bar that Ordle proposes, as a person may have changed it since. */
export interface Proposal {
  settings: ProposalSettings;
  choice: Int32Array;
  /** Bars it would change. */
  changes: number;
}

const USUAL: ProposalSettings = { by: 'tightest', penalty: 2, missing: 2, velocity: 80 };

/**
 * A proposal is made while it is open, and made anew when its settings or the takes change; what was changed in it by
 * hand stays until then.
 */
export function useProposal(partId: string, rows: readonly TakeRow[] | null, chosen: Int32Array | undefined) {
  // Takes that just came in are shown with what is proposed of them.
  const { state } = useLocation();
  const [isOpen, setOpen] = useState(
    () => typeof state === 'object' && state !== null && 'isProposing' in state,
  );
  const dispatch = useAppDispatch();
  const settings = useAppSelector(({ view }) => view.proposals[partId]) ?? USUAL;
  const [byHand, setByHand] = useState<ReadonlyMap<number, number>>(new Map());
  const bars = chosen?.length ?? 0;
  const made = useMemo(() => {
    if (!isOpen || !rows || rows.length === 0) return null;
    return cheapest(costsOf(rows, settings), settings.penalty).sources;
  }, [isOpen, rows, settings]);
  const proposal = useMemo((): Proposal | null => {
    if (!made || !rows || !chosen) return null;
    const choice = Int32Array.from({ length: bars }, (_, bar) => byHand.get(bar) ?? made[bar] ?? chosen[bar]);
    const changes = choice.filter((row, bar) => row !== chosen[bar]).length;
    return { settings, choice, changes };
  }, [made, rows, chosen, bars, byHand, settings]);
  return {
    proposal,
    settings,
    open() {
      setByHand(new Map());
      setOpen(true);
    },
    close: () => setOpen(false),
    change(next: Partial<ProposalSettings>) {
      setByHand(new Map());
      const { proposals } = store.getState().view;
      const before = proposals[partId] ?? USUAL;
      dispatch(viewChanged({ proposals: { ...proposals, [partId]: { ...before, ...next } } }));
    },
    /** Proposes another take for some bars. */
    put(row: number, from: number, to: number) {
      setByHand((before) => {
        const next = new Map(before);
        for (let bar = from; bar <= to; bar++) next.set(bar, row);
        return next;
      });
    },
  };
}

/** What each take would cost in each bar by what is looked for. */
export function costsOf(rows: readonly TakeRow[], { by, missing, velocity }: ProposalSettings): BarCosts[] {
  const wanted: Wanted = by === 'nearest' ? { by, velocity, missing } : { by, missing };
  return costsBy(
    rows.map(({ reading }) => reading),
    wanted,
    rows.some(({ isByScore }) => isByScore)
      ? (row, bar) => (rows[row].missing[bar] ?? 0) + (rows[row].extra[bar] ?? 0)
      : undefined,
  );
}

/** Root mean square of the deviations of the bars that are chosen, in ms; NaN without notes. */
export function spreadOf(rows: readonly TakeRow[], choice: Int32Array): number {
  let [squares, notes] = [0, 0];
  choice.forEach((row, bar) => {
    const reading = rows[row]?.reading.bars[bar];
    if (!reading || reading.notes === 0) return;
    squares += reading.spreadMs ** 2 * reading.notes;
    notes += reading.notes;
  });
  return notes === 0 ? NaN : Math.sqrt(squares / notes);
}
