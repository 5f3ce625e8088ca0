import { sentenceOf, type Part } from '@ordle/core';
import { useState } from 'react';
import { toast } from 'sonner';
import { engine } from '@/engine/engineClient';
import { selectDocument } from '@/state/sessionSlice';
import { store, useAppDispatch } from '@/state/store';
import { Button } from '@/ui';
import { changeHints } from './tempoActions';

/** The beats of a part that has a score beside it, as the score tells them. */
export function BeatsOfScore({ part, mayWrite }: { part: Part; mayWrite: boolean }) {
  const dispatch = useAppDispatch();
  const [isBusy, setBusy] = useState(false);
  const take = async () => {
    const session = selectDocument(store.getState());
    if (!session) return;
    setBusy(true);
    try {
      const told = await engine.beatsByScore({ session, partId: part.id });
      changeHints(dispatch, 'Beats from the score', part.id, () => told);
    } catch (error) {
      toast.error(sentenceOf(error), { duration: 10000 });
    } finally {
      setBusy(false);
    }
  };
  return (
    <Button
      className="h-auto! justify-center py-1 leading-tight whitespace-normal!"
      disabled={!mayWrite || isBusy}
      title={`Every beat and bar line where “${part.reference?.name ?? ''}” has it`}
      onClick={() => void take()}
    >
      {isBusy ? 'Following the score ...' : 'Take the beats from the score'}
    </Button>
  );
}
