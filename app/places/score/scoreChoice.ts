import { createSmallStore } from '@/ui/smallStore';

/** What is looked at on Score; kept while other places are visited. */
interface ScoreChoice {
  sessionId: string;
  /** Ids of the parts in the score; null: the one that is worked on. */
  parts: readonly string[] | null;
  /** Size of the staves, in percent. */
  scale: number;
  /** From the first bar up to, not including, the second; null: all. */
  bars: [number, number] | null;
  /** As one page that goes on, or in pages as they are printed. */
  layout: 'continuous' | 'pages';
  /** Of a part with a score beside it: that score with the playing on it, or the part as it would be written. */
  page: 'score' | 'part';
  /** The playing on the score as it was played, or as it is cleaned. */
  version: 'played' | 'cleaned';
}

const store = createSmallStore<ScoreChoice | null>(null);

/** The sizes of staves there are, in percent. */
export const SCALES = [30, 40, 55] as const;

export function useScoreChoice(sessionId: string) {
  const kept = store.useValue();
  const choice: ScoreChoice =
    kept?.sessionId === sessionId
      ? kept
      : {
          sessionId,
          parts: null,
          scale: SCALES[1],
          bars: null,
          layout: 'continuous',
          page: 'score',
          version: 'cleaned',
        };
  return { choice, choose: (change: Partial<ScoreChoice>) => store.set({ ...choice, ...change }) };
}
