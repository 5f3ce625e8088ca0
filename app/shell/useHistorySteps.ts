import { countOf } from '@/history/history';
import { jumpTo } from '@/state/sessionSlice';
import { store, useAppDispatch } from '@/state/store';
import { workspace } from '@/saving/workspace';
import { attempt } from '@/ui/attempt';

/** Going through the history: at once where the way is in memory, else as soon as it has been read. */
export function useHistorySteps() {
  const dispatch = useAppDispatch();
  const goTo = (count: number) => {
    const earlier = store.getState().session.work?.history.earlier ?? 0;
    if (count >= earlier) attempt(() => dispatch(jumpTo(count)));
    else void workspace.reach(count).then(() => attempt(() => dispatch(jumpTo(count))));
  };
  const by = (steps: number) => {
    const history = store.getState().session.work?.history;
    if (history) goTo(Math.max(0, countOf(history) + steps));
  };
  return { goTo, undo: () => by(-1), redo: () => by(1) };
}
