import type { NoteValue, PartView } from '@ordle/core';
import { useEffect, useMemo } from 'react';
import { engine } from '@/engine/engineClient';
import { createSmallStore } from '@/ui/smallStore';
import { rulingGrid } from '@/music/gridInForce';
import { lanesShown } from '@/music/laneList';
import type { BenchState } from './useBench';

const playedView = createSmallStore<PartView | null>(null);

/** The active part as it was played, while that is what is to be seen; null else, and until it is there. */
export const usePlayedView = playedView.useValue;

/** Keeps that view for all panels that show it. */
export function useKeepPlayedView(bench: BenchState, isWanted: boolean): void {
  const { session, part } = bench;
  const key = JSON.stringify([rulingGrid(bench.view), lanesShown(bench).map(({ lane }) => lane)]);
  const [grid, lanes] = useMemo(() => JSON.parse(key) as [NoteValue, string[]], [key]);
  useEffect(() => {
    if (!isWanted || !part) {
      playedView.set(null);
      return;
    }
    let isAwaited = true;
    engine
      .viewPart({ session, partId: part.id, stop: 0, cleaned: false, grid, lanes, details: false })
      .then((played) => isAwaited && playedView.set(played))
      // What cannot be worked out is told where the part itself is shown.
      .catch(() => undefined);
    return () => {
      isAwaited = false;
    };
  }, [isWanted, session, part, grid, lanes]);
  useEffect(() => () => playedView.set(null), []);
}
