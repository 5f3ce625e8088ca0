import { sentenceOf, type ChartBin, type ChartKind, type Session, type Where } from '@ordle/core';
import { useEffect, useRef, useState } from 'react';
import { engine } from '@/engine/engineClient';
import { createLatest } from '@/engine/latest';

interface Asked {
  session: Session;
  partId: string;
  kind: ChartKind;
  grid: string;
  where: Where;
}

/** A chart of a part, kept in step with the session; the bins are those of the kind they come with. */
export function useChart({ session, partId, kind, grid, where }: Asked) {
  const [chart, setChart] = useState<{ kind: ChartKind; partId: string; bins: ChartBin[] } | null>(null);
  const [error, setError] = useState<string | null>(null);
  const asking = useRef(
    createLatest(
      async (asked: Asked) => ({ ...asked, bins: await engine.chart(asked) }),
      ({ kind: of, partId: whose, bins }) => {
        setChart({ kind: of, partId: whose, bins });
        setError(null);
      },
      (reason) => setError(sentenceOf(reason)),
    ),
  );
  useEffect(
    () => asking.current.ask({ session, partId, kind, grid, where }),
    [session, partId, kind, grid, where],
  );
  const bins = chart?.kind === kind && chart.partId === partId ? chart.bins : null;
  return { bins, error };
}
