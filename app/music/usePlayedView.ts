import type { NoteValue } from '@ordle/core';
import { useEffect, useMemo, useState } from 'react';
import { engine } from '@/engine/engineClient';
import type { PartView } from '@/engine/protocol';
import { rulingGrid } from '@/steps/gridInForce';
import type { BenchState } from './useBench';

/** The active part as it was played, while that is what is to be seen; null else, and until it is there. */
export function usePlayedView({ session, part, view }: BenchState, isWanted: boolean): PartView | null {
  const [known, setKnown] = useState<PartView | null>(null);
  const key = JSON.stringify(rulingGrid(view));
  const grid = useMemo(() => JSON.parse(key) as NoteValue, [key]);
  useEffect(() => {
    if (!isWanted || !part) return;
    let isAwaited = true;
    engine
      .viewPart({ session, partId: part.id, stop: 0, cleaned: false, grid, details: false })
      .then((played) => isAwaited && setKnown(played))
      // What cannot be worked out is told where the part itself is shown.
      .catch(() => undefined);
    return () => {
      isAwaited = false;
    };
  }, [isWanted, session, part, grid]);
  return isWanted && known?.partId === part?.id ? known : null;
}
