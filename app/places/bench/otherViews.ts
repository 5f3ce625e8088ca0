import { useEffect, useState } from 'react';
import type { OtherPart } from '@/editor';
import { engine } from '@/engine/engineClient';
import { rulingGrid } from './gridInForce';
import type { BenchState } from './useBench';

/** The other parts that are shown with the active one, as they are cleaned. */
export function useOtherViews({ session, part: active, view }: BenchState): OtherPart[] {
  const [others, setOthers] = useState<OtherPart[]>([]);
  const parts = session.parts.filter(({ id }) => id !== active?.id && view.shown.includes(id));
  // Parts are replaced when they change, so their identities tell when to ask again.
  const signature = parts
    .map((part) => `${part.id} ${part.ink} ${JSON.stringify(part.steps)} ${JSON.stringify(part.layers)}`)
    .join('\n');
  useEffect(() => {
    let wanted = true;
    void Promise.all(
      parts.map(async (part): Promise<OtherPart> => ({
        partId: part.id,
        ink: part.ink,
        view: await engine.viewPart({
          session,
          partId: part.id,
          stop: part.steps.length,
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
    // eslint-disable-next-line react-hooks/exhaustive-deps -- the signature stands for the parts
  }, [signature]);
  return others;
}
