import { listOf } from '@ordle/core';
import { useEffect, useState } from 'react';
import type { OtherPart } from '@/editor';
import { engine } from '@/engine/engineClient';
import { useSame } from '@/ui/useSame';
import { rulingGrid } from '@/music/gridInForce';
import type { BenchState } from './useBench';

/** The other parts that are shown with the active one, as they are cleaned. */
export function useOtherViews({ session, part: active, view }: BenchState): OtherPart[] {
  const [others, setOthers] = useState<OtherPart[]>([]);
  const parts = listOf(session.parts).filter(({ id }) => id !== active?.id && view.shown.includes(id));
  // Parts are replaced when they change, so their identities tell when to ask again.
  const shown = useSame(parts);
  useEffect(() => {
    let wanted = true;
    void Promise.all(
      shown.map(async (part): Promise<OtherPart> => ({
        partId: part.id,
        ink: part.ink,
        view: await engine.viewPart({
          session,
          partId: part.id,
          stop: part.steps.order.length,
          cleaned: true,
          grid: rulingGrid(view),
          details: false,
        }),
      })),
    ).then(
      (list) => wanted && setOthers(list),
      () => undefined,
    );
    return () => {
      wanted = false;
    };
    // eslint-disable-next-line react-hooks/exhaustive-deps -- the parts tell when the session has changed for them
  }, [shown]);
  return others;
}
