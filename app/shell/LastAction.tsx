import { useState } from 'react';
import { useAppSelector } from '@/state/store';

/** Tells screen readers what was done last, in every place of a session. */
export function LastAction() {
  const { label, count } = useLastAction();
  return (
    <p role="status" aria-label="Last action" className="sr-only">
      {/* Anew at each action, so that one done twice is told twice. */}
      <span key={count}>{label}</span>
    </p>
  );
}

/** The last thing done, undone or done again, and a number that is another for each. */
function useLastAction(): { label: string; count: number } {
  const history = useAppSelector((state) => state.session.work?.history);
  const done = history?.done.length ?? 0;
  const [last, setLast] = useState({ history, done, label: '', count: 0 });
  // Worked out while rendering, so that it is said with what it did.
  if (last.history !== history) {
    const latest = history?.done.at(-1)?.label ?? '';
    const isUndone = history !== undefined && last.history !== undefined && done < last.done;
    const undone = isUndone ? last.history?.done.at(done)?.label : undefined;
    const label = undone === undefined ? latest : `Undone: ${undone}`;
    setLast({ history, done, label, count: last.count + 1 });
    return { label, count: last.count + 1 };
  }
  return last;
}
