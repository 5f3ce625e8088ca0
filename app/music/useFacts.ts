import type { PartFacts } from '@ordle/core';
import { useEffect, useState } from 'react';
import { engine } from '@/engine/engineClient';
import type { BenchState } from './useBench';

/** What is in the active part before a step; null while it is read. Read anew when the current step is another. */
export function useFacts({ session, part }: BenchState, stepId: string): PartFacts | null {
  const [read, setRead] = useState<{ of: string; facts: PartFacts } | null>(null);
  const at = part?.steps.order.indexOf(stepId) ?? -1;
  const partId = part?.id;
  useEffect(() => {
    if (!partId || at < 0) return;
    let wanted = true;
    void engine.factsOf({ session, partId, stop: at }).then(
      (facts) => wanted && setRead({ of: stepId, facts }),
      () => undefined,
    );
    return () => {
      wanted = false;
    };
    // Facts serve suggestions; reading them again at every move of a slider would cost more than it tells.
    // eslint-disable-next-line react-hooks/exhaustive-deps
  }, [partId, stepId, at]);
  return read?.of === stepId ? read.facts : null;
}
