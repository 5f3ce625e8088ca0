import { itemOf, listOf, type Part } from '@ordle/core';
import { useEffect } from 'react';
import type { OtherPart } from '@/editor';
import { engine } from '@/engine/engineClient';
import { selectDocument } from '@/state/sessionSlice';
import { store as appStore } from '@/state/store';
import { createSmallStore } from '@/ui/smallStore';
import { useSame } from '@/ui/useSame';
import { rulingGrid } from '@/music/gridInForce';
import type { BenchState } from './useBench';

/** The other parts that are shown with the active one, as they are cleaned, and the parts they are views of. */
interface OtherViews {
  others: OtherPart[];
  asOf: readonly Part[];
}

const store = createSmallStore<OtherViews>({ others: [], asOf: [] });

export const otherViewsStore = {
  get: () => store.get().others,
  subscribe: store.subscribe,
  /** Whether what is shown of some parts is as the document has them. */
  areFresh(partIds: Iterable<string>): boolean {
    const session = selectDocument(appStore.getState());
    const { asOf } = store.get();
    return [...partIds].every((id) => {
      const part = session ? itemOf(session.parts, id) : undefined;
      // One that is gone, or is not shown any more, is nothing to wait for.
      return part === undefined || !asOf.some((own) => own.id === id) || asOf.includes(part);
    });
  },
};

export const useOthersShown = (): OtherPart[] => store.useValue().others;

/** Keeps the views of the parts that are shown or set together with the active one. */
export function useOtherViews({ session, part: active, together, view }: BenchState): void {
  const isAlong = (id: string) => view.shown.includes(id) || together.some((own) => own.id === id);
  const parts = listOf(session.parts).filter(({ id }) => id !== active?.id && isAlong(id));
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
      (others) => wanted && store.set({ others, asOf: shown }),
      () => undefined,
    );
    return () => {
      wanted = false;
    };
    // eslint-disable-next-line react-hooks/exhaustive-deps -- the parts tell when the session has changed for them
  }, [shown]);
}
