import { useState } from 'react';
import { jumpTo, markHere } from '@/state/sessionSlice';
import { useAppDispatch, useAppSelector } from '@/state/store';
import { Button, Dialog } from '@/ui';

/** Everything done, in the person's words, newest first; a click goes to any point. Points can be given names. */
export function HistoryPanel({ open, onClose }: { open: boolean; onClose(): void }) {
  const dispatch = useAppDispatch();
  const history = useAppSelector((state) => state.session.work?.history);
  const mayWrite = useAppSelector((state) => state.session.mayWrite);
  const [name, setName] = useState('');
  if (!history) return null;
  const entries = [...history.done, ...[...history.undone].reverse()];
  const now = history.done.length;
  const row = (index: number, label: string, mark: string | undefined) => (
    <li key={index}>
      <button
        type="button"
        disabled={!mayWrite}
        aria-current={index === now}
        onClick={() => dispatch(jumpTo(index))}
        className={`flex w-full items-baseline justify-between gap-3 border-l-3 px-2 py-0.5 text-left hover:bg-well ${index === now ? 'border-accent font-semibold' : 'border-transparent'} ${index > now ? 'text-ink-3' : ''}`}
      >
        <span className="truncate">{label}</span>
        {mark && (
          <span className="shrink-0 border border-rule-strong px-1.5 text-quiet text-ink-2">{mark}</span>
        )}
      </button>
    </li>
  );
  return (
    <Dialog
      open={open}
      onClose={onClose}
      title="History"
      description="Go to any point; what comes after it stays until something new is done."
    >
      <form
        className="flex gap-2"
        onSubmit={(event) => {
          event.preventDefault();
          if (name.trim() === '' || now === 0) return;
          dispatch(markHere(name.trim()));
          setName('');
        }}
      >
        <input
          aria-label="Name of this point"
          placeholder="Name this point"
          value={name}
          disabled={!mayWrite || now === 0}
          onChange={(event) => setName(event.target.value)}
          className="grow border border-rule-strong bg-transparent px-2 py-1"
        />
        <Button type="submit" disabled={!mayWrite || name.trim() === '' || now === 0}>
          Mark
        </Button>
      </form>
      <ol reversed aria-label="Actions, newest first" className="min-h-24 overflow-y-auto">
        {entries.map((entry, index) => row(index + 1, entry.label, entry.mark)).reverse()}
        {row(0, 'As it was opened first', undefined)}
      </ol>
    </Dialog>
  );
}
