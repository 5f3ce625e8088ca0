import { listOf, itemOf, type Part } from '@ordle/core';
import { useVirtualizer } from '@tanstack/react-virtual';
import { useEffect, useState, type ReactNode } from 'react';
import { toast } from 'sonner';
import { useCommands } from '@/commands';
import { useAppDispatch } from '@/state/store';
import { viewChanged } from '@/state/viewSlice';
import { Button } from '@/ui';
import { FoldingPanel } from '@/panels/FoldingPanel';
import { PartRow } from './PartRow';
import { PartSettings } from './PartSettings';
import { useOpenBench } from '@/music/useBench';
import { isWithoutNotes, usePartContents } from '@/music/usePartContents';
import { useOffTheGrid } from '@/music/useOffTheGrid';
import { rulingGrid } from '@/music/gridInForce';

/** Rows that are all put into the page; of more only those in sight. */
const MOST_ROWS = 60;
const ROW_HEIGHT = 28;

/** The parts of the session: which one is on the bench, which are shown with it, and which are heard. */
export function PartsList() {
  const bench = useOpenBench();
  const dispatch = useAppDispatch();
  const { session, part: active, together, view, mayWrite } = bench;
  const soloed = listOf(session.parts).some((part) => part.soloed);
  const [settings, setSettings] = useState<string | null>(null);
  const [scroller, setScroller] = useState<HTMLElement | null>(null);
  const go = (by: number) => {
    const at = listOf(session.parts).findIndex(({ id }) => id === active?.id);
    const next = listOf(session.parts)[(at + by + session.parts.order.length) % session.parts.order.length];
    if (next) dispatch(viewChanged({ partId: next.id, together: [] }));
  };
  useCommands({
    'next-part': () => go(1),
    'previous-part': () => go(-1),
    'all-parts': () =>
      dispatch(
        viewChanged({ together: together.length > 0 ? [] : listOf(session.parts).map(({ id }) => id) }),
      ),
  });
  const open = itemOf(session.parts, settings);
  const contents = usePartContents(session);
  const offMs = useOffTheGrid(session, rulingGrid(view));
  const [unfolded, setUnfolded] = useState(false);
  const parts = listOf(session.parts);
  const without = parts.filter(({ id }) => isWithoutNotes(contents[id]));
  // One of them alone needs no line of its own; the part that is worked on is always in sight.
  const isFolded = without.length > 1 && !unfolded && !without.some(({ id }) => id === active?.id);
  const listed = isFolded ? parts.filter((part) => !without.includes(part)) : parts;
  const shownIds = new Set(view.shown);
  const togetherIds = new Set(together.map(({ id }) => id));
  const allShown = listOf(session.parts).every(({ id }) => id === active?.id || shownIds.has(id));
  const rowOf = (part: Part) => (
    <PartRow
      key={part.id}
      part={part}
      isActive={part.id === active?.id}
      isTogether={togetherIds.has(part.id)}
      heard={!part.muted && (!soloed || part.soloed)}
      shown={shownIds.has(part.id)}
      content={contents[part.id]}
      offMs={offMs[part.id]}
      single={session.parts.order.length > MOST_ROWS}
      mayWrite={mayWrite}
      onSettings={setSettings}
    />
  );
  return (
    <FoldingPanel panel="parts" label="Parts" title="Parts">
      <div ref={setScroller} className="flex min-h-0 grow flex-col overflow-y-auto">
        <h2 className="flex items-center justify-between px-3 pt-1.5 pb-1 text-quiet font-semibold text-ink-2">
          {together.length > 0
            ? `${together.length + 1} parts together`
            : `Parts, ${session.parts.order.length}`}
          {session.parts.order.length > 1 && (
            <Button
              className="h-6 px-1 text-quiet font-normal"
              onClick={() => {
                dispatch(viewChanged({ shown: allShown ? [] : listOf(session.parts).map(({ id }) => id) }));
                if (!allShown)
                  toast('All parts are shown behind the active one. F brings all of their notes into sight.');
              }}
            >
              {allShown ? 'show one' : 'show all'}
            </Button>
          )}
        </h2>
        {session.parts.order.length > MOST_ROWS ? (
          <ManyRows
            parts={listed}
            active={listed.findIndex(({ id }) => id === active?.id)}
            rowOf={rowOf}
            scroller={scroller}
          />
        ) : (
          <ul>{listed.map(rowOf)}</ul>
        )}
        {without.length > 1 && !without.some(({ id }) => id === active?.id) && (
          <button
            type="button"
            aria-expanded={!isFolded}
            onClick={() => setUnfolded(!unfolded)}
            className="flex h-7 shrink-0 items-center px-3 text-left text-quiet text-ink-2 hover:text-ink"
          >
            {without.length} without notes {isFolded ? '▸' : '▾'}
          </button>
        )}
        {open && <PartSettings part={open} mayWrite={bench.mayWrite} onClose={() => setSettings(null)} />}
      </div>
    </FoldingPanel>
  );
}

interface ManyRowsProps {
  parts: readonly Part[];
  /** Row of the active part, kept in sight. */
  active: number;
  rowOf(part: Part): ReactNode;
  scroller: HTMLElement | null;
}

/** Rows in sight only: a file may hold thousands of tracks. */
function ManyRows({ parts, active, rowOf, scroller }: ManyRowsProps) {
  // eslint-disable-next-line react-hooks/incompatible-library -- the virtualizer keeps its own state by design
  const rows = useVirtualizer({
    count: parts.length,
    getScrollElement: () => scroller,
    estimateSize: () => ROW_HEIGHT,
    overscan: 10,
  });
  useEffect(() => {
    if (active >= 0) rows.scrollToIndex(active, { align: 'auto' });
    // eslint-disable-next-line react-hooks/exhaustive-deps -- only when another part becomes active
  }, [active]);
  const shown = rows.getVirtualItems();
  return (
    <ul className="shrink-0" style={{ height: rows.getTotalSize() }}>
      <li aria-hidden="true" style={{ height: shown[0]?.start ?? 0 }} />
      {shown.map(({ index }) => rowOf(parts[index]))}
    </ul>
  );
}
