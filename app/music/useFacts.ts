import type { PartFacts } from '@ordle/core';
import { useEffect, useState } from 'react';
import { engine } from '@/engine/engineClient';
import { useSame } from '@/ui/useSame';
import { useBench, type BenchState } from './useBench';

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

/** Whether the active part keeps to the bars of the session; null until it is read. Read anew with another tempo. */
export function useFollowsBars(): boolean | null {
  const bench = useBench();
  const part = bench?.part;
  const session = bench?.session;
  const [read, setRead] = useState<{ of: readonly unknown[]; followsBars: boolean } | null>(null);
  const of = useSame([part?.id, part?.layers, part?.lockedTo, session?.tempos]);
  useEffect(() => {
    if (!session || !part) return;
    let wanted = true;
    void engine.factsOf({ session, partId: part.id, stop: 0 }).then(
      ({ followsBars }) => wanted && setRead({ of, followsBars }),
      // What cannot be read is not kept from being quantized.
      () => wanted && setRead({ of, followsBars: true }),
    );
    return () => {
      wanted = false;
    };
    // eslint-disable-next-line react-hooks/exhaustive-deps -- asked by what decides it
  }, [of]);
  return read?.of === of ? read.followsBars : null;
}
