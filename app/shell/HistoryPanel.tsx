import { useVirtualizer } from '@tanstack/react-virtual';
import { useCallback, useEffect, useState } from 'react';
import { countOf, type History } from '@/history/history';
import { markHere } from '@/state/sessionSlice';
import { useAppDispatch, useAppSelector } from '@/state/store';
import { Button, Dialog } from '@/ui';
import { workspace } from '@/saving/workspace';
import { useHistorySteps } from './useHistorySteps';

const ROW_HEIGHT = 24;

/** Everything done, in the person's words, newest first; a click goes to any point. Points can be given names. */
export function HistoryPanel({ open, onClose }: { open: boolean; onClose(): void }) {
  const dispatch = useAppDispatch();
  const history = useAppSelector((state) => state.session.work?.history);
  const mayWrite = useAppSelector((state) => state.session.mayWrite);
  const [name, setName] = useState('');
  const { goTo } = useHistorySteps();
  if (!history) return null;
  const now = countOf(history);
  return (
    <Dialog
      open={open}
      onClose={onClose}
      title="History"
      description="Go back to any point. Later actions stay until you change something."
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
          Name
        </Button>
      </form>
      <Entries history={history} disabled={!mayWrite} onGo={goTo} />
    </Dialog>
  );
}

interface EntriesProps {
  history: History;
  disabled: boolean;
  onGo(count: number): void;
}

/** Only the rows in sight are in the page: a history may hold tens of thousands of actions. */
function Entries({ history, disabled, onGo }: EntriesProps) {
  const { done, undone, earlier = 0 } = history;
  const now = countOf(history);
  const [list, setList] = useState<HTMLElement | null>(null);
  const count = now + undone.length + 1;
  // eslint-disable-next-line react-hooks/incompatible-library -- the virtualizer keeps its own state by design
  const rows = useVirtualizer({
    count,
    getScrollElement: () => list,
    estimateSize: () => ROW_HEIGHT,
    overscan: 12,
    // The point one is at is in sight from the start.
    initialOffset: () => Math.max(0, (undone.length - 6) * ROW_HEIGHT),
    getItemKey: useCallback((row: number) => count - 1 - row, [count]),
  });
  // What is scrolled to and lies in storage is read.
  const oldest = count - 1 - (rows.getVirtualItems().at(-1)?.index ?? 0);
  useEffect(() => {
    if (list && oldest < earlier) void workspace.reach(oldest);
  }, [list, oldest, earlier]);
  return (
    <div ref={setList} className="max-h-96 min-h-24 overflow-y-auto">
      <ol
        reversed
        aria-label="Actions, newest first"
        className="relative"
        style={{ height: rows.getTotalSize() }}
      >
        {rows.getVirtualItems().map(({ index: row, key, start }) => {
          const index = count - 1 - row;
          const entry =
            index === 0
              ? undefined
              : index <= now
                ? done[index - 1 - earlier]
                : undone[undone.length - (index - now)];
          return (
            <li
              key={key}
              aria-posinset={row + 1}
              aria-setsize={count}
              className="absolute inset-x-0"
              style={{ top: start, height: ROW_HEIGHT }}
            >
              <button
                type="button"
                disabled={disabled}
                aria-current={index === now}
                onClick={() => onGo(index)}
                className={`flex h-full w-full items-center justify-between gap-3 border-l-3 px-2 text-left hover:bg-well ${index === now ? 'border-ink font-semibold' : 'border-transparent'} ${index > now ? 'text-ink-3' : ''}`}
              >
                <span className="truncate">{entry?.label ?? (index === 0 ? 'When first opened' : '…')}</span>
                {entry?.mark && (
                  <span className="shrink-0 border border-rule-strong px-1.5 text-quiet text-ink-2">
                    {entry.mark}
                  </span>
                )}
              </button>
            </li>
          );
        })}
      </ol>
    </div>
  );
}
