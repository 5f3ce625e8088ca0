import { useState, type ReactNode } from 'react';
import { keysOf, run, showKey, useCommands } from '@/commands';
import { countOf } from '@/history/history';
import { edit, selectDocument } from '@/state/sessionSlice';
import { useAppDispatch, useAppSelector } from '@/state/store';
import { Button, Menu } from '@/ui';
import { FOLDED_HEADER, useMedia } from '@/ui/useMedia';
import { useRoving } from '@/ui/useRoving';
import { HistoryPanel } from './HistoryPanel';
import { useHistorySteps } from './useHistorySteps';
import { PlacesNav } from './PlacesNav';
import { SavingState } from '@/saving/SavingState';
import { ThemeButton, switchTheme } from '@/ui/ThemeButton';
import { Wordmark } from '@/ui/Wordmark';

/** Wordmark, the session and its state, its places, undo and redo by name; before them what the frame puts there. */
export function TopBar({ sessionId, children }: { sessionId: string; children?: ReactNode }) {
  const steps = useHistorySteps();
  const history = useAppSelector((state) => state.session.work?.history);
  const mayWrite = useAppSelector((state) => state.session.mayWrite);
  const last = history?.done.at(-1)?.label;
  const next = history?.undone.at(-1)?.label;
  const [open, setOpen] = useState(false);
  const isFolded = useMedia(FOLDED_HEADER);
  const bar = useRoving<HTMLDivElement>();
  useCommands({ history: () => setOpen(true) });
  return (
    <header className="flex h-10 shrink-0 items-center gap-3 border-b border-rule px-3 max-xl:gap-1.5 max-xl:px-2 short:h-9">
      {children}
      <Wordmark />
      <SessionName />
      <SavingState />
      <PlacesNav sessionId={sessionId} />
      <div
        ref={bar}
        role="toolbar"
        aria-label="Session"
        className="ml-auto flex shrink-0 items-center gap-0.5"
      >
        {isFolded ? (
          <>
            <Button
              look="quiet"
              disabled={!history || countOf(history) === 0 || !mayWrite}
              onClick={steps.undo}
              title={last ? `Undo: ${last} (Ctrl+Z)` : 'Nothing to undo'}
            >
              Undo
            </Button>
            <Menu
              trigger={<Button aria-label="More of the session">More ▾</Button>}
              items={[
                {
                  label: 'Find an action',
                  hint: 'Ctrl+K',
                  onSelect: () => setTimeout(() => run('palette'), 60),
                },
                {
                  label: next ? `Redo: ${next}` : 'Redo',
                  disabled: !next || !mayWrite,
                  onSelect: steps.redo,
                },
                { label: 'History', onSelect: () => setTimeout(() => setOpen(true), 60) },
                { label: 'Suggested clean-up', onSelect: () => void run('go-clean-up') },
                { label: 'Guide', onSelect: () => void run('guide') },
                { label: 'Light or dark', onSelect: switchTheme },
              ]}
            />
          </>
        ) : (
          <>
            <Button
              look="quiet"
              disabled={!history || countOf(history) === 0 || !mayWrite}
              onClick={steps.undo}
              title={last ? `Undo: ${last} (Ctrl+Z)` : 'Nothing to undo'}
            >
              Undo{last && <span className="max-w-20 truncate text-ink-3 max-xl:hidden">{last}</span>}
            </Button>
            <Button
              look="quiet"
              disabled={!next || !mayWrite}
              onClick={steps.redo}
              title={next ? `Redo: ${next} (Ctrl+Shift+Z)` : 'Nothing to redo'}
            >
              Redo{next && <span className="max-w-12 truncate text-ink-3 max-xl:hidden">{next}</span>}
            </Button>
            <Button look="quiet" onClick={() => setOpen(true)} title="Everything done, to go back to (H)">
              History
            </Button>
            <button
              type="button"
              aria-label="Find an action"
              onClick={() => run('palette')}
              className="mx-1 flex h-7 w-40 shrink-0 items-center justify-between rounded-medium border border-edge bg-sheet px-2.5 text-ink-2 hover:text-ink max-2xl:w-24"
            >
              <span>
                Find<span className="max-2xl:hidden"> an action</span>
              </span>
              <kbd className="rounded-small border border-rule px-1 font-sans text-quiet">
                {keysOf('palette').map(showKey)[0]}
              </kbd>
            </button>
          </>
        )}
        <HistoryPanel open={open} onClose={() => setOpen(false)} />
        {!isFolded && <ThemeButton />}
      </div>
    </header>
  );
}

function SessionName() {
  const dispatch = useAppDispatch();
  const name = useAppSelector((state) => selectDocument(state)?.name ?? '');
  const mayWrite = useAppSelector((state) => state.session.mayWrite);
  const [draft, setDraft] = useState<string | null>(null);
  const commit = () => {
    const next = draft?.trim();
    setDraft(null);
    if (next && next !== name)
      dispatch(edit(`Rename to ${next}`, (session) => void (session.name = next.slice(0, 200))));
  };
  return (
    <input
      aria-label="Name of the session"
      title="Name of the session; click to change it"
      value={draft ?? name}
      disabled={!mayWrite}
      size={Math.max(8, Math.min(32, (draft ?? name).length))}
      onChange={(event) => setDraft(event.target.value)}
      onBlur={commit}
      onKeyDown={(event) => {
        if (event.key === 'Enter') event.currentTarget.blur();
        if (event.key === 'Escape') {
          setDraft(null);
          event.currentTarget.blur();
        }
        event.stopPropagation();
      }}
      className="min-w-10 shrink overflow-hidden text-ellipsis rounded-small border border-transparent bg-transparent px-1 font-serif text-[1.1rem] font-semibold hover:border-edge focus:border-edge focus:bg-sheet"
    />
  );
}
