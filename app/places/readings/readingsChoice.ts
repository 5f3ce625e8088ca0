import type { ChartKind, Where } from '@ordle/core';
import { createSmallStore } from '@/ui/smallStore';

/** What is looked at on Readings; kept while other places are visited. */
export interface ReadingsChoice {
  /** The session it was chosen in. */
  sessionId: string;
  where: Where;
  /** What is told of the chosen part under the table. */
  shown: ChartKind | 'grids' | 'harmony' | 'compare' | 'score';
  asTable: boolean;
}

const store = createSmallStore<ReadingsChoice | null>(null);

/** What is looked at in a session, and how to look at something else. */
export function useReadingsChoice(sessionId: string) {
  const kept = store.useValue();
  const choice: ReadingsChoice =
    kept?.sessionId === sessionId ? kept : { sessionId, where: NOWHERE, shown: 'grids', asTable: false };
  return {
    choice,
    choose: (change: Partial<ReadingsChoice>) => store.set({ ...choice, ...change }),
  };
}

const NOWHERE: Where = {};
