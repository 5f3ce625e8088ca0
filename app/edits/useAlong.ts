import { stretchesOf } from '@ordle/core';
import { useDeferredValue, useMemo } from 'react';
import { selectedRows, useSelection } from '@/state/selection';
import { usePartView } from '@/music/partViewStore';
import type { BenchState } from '@/music/useBench';

/** None, always the same, so that nothing is drawn anew for it. */
const NONE: [number, number][] = [];

/** The stretches of time whose controllers go along with the selected notes; none while that is switched off. */
export function useAlong({ part, view: { along }, mayWrite }: BenchState): [number, number][] {
  const selection = useSelection();
  const view = useDeferredValue(usePartView().view);
  return useMemo(() => {
    const mine = view !== null && view.partId === part?.id && selection.partId === part.id;
    if (!along || !mayWrite || !mine || selection.ids.size === 0) return NONE;
    // To the end of what is there, where no other note follows.
    return stretchesOf(view.notes, selectedRows(view.notes.id, selection.ids)).map(
      ([from, to]): [number, number] => [from, Math.min(to, Math.max(from, view.endTick))],
    );
  }, [along, mayWrite, part?.id, selection, view]);
}
