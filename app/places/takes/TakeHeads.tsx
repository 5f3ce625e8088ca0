import { takesOfPart, withTakes, type Part, type TakeRow } from '@ordle/core';
import { useEffect, useRef, useState } from 'react';
import type { Cell } from '@/editor';
import { useOpenBench } from '@/music/useBench';
import { useAppDispatch } from '@/state/store';
import { Menu } from '@/ui';
import { counted } from '@/words/counts';
import { TakeHead, type TakeQuestion } from './TakeHead';
import { PassesDialog } from './PassesDialog';
import { SlideDialog } from './SlideDialog';
import { TakeOutDialog } from './TakeOutDialog';
import { changeAssembly } from '@/edits/assemblyActions';
import { spreadInWords, sum } from './takeWords';
import type { Heard } from './useHeard';
import type { TakesState } from './useTakes';

interface TakeHeadsProps {
  part: Part;
  state: TakesState;
  focus: Cell;
  scrolled: { top: number; height: number };
  mayWrite: boolean;
  heard: Heard;
  onFocus(row: number): void;
  onScroll(down: number): void;
}

/** How takes may be ordered in the list. */
const ORDERS = [
  { value: 'spread', words: 'tightest first' },
  { value: 'bias', words: 'earliest first' },
  { value: 'velocity', words: 'loudest first' },
  { value: 'missing', words: 'most complete first' },
] as const;
type Order = (typeof ORDERS)[number]['value'];

const meanVelocity = ({ reading }: TakeRow): number => {
  const notes = reading.bars.reduce((total, bar) => total + bar.notes, 0);
  return (
    reading.bars.reduce((total, bar) => total + (bar.notes > 0 ? bar.velocity * bar.notes : 0), 0) / notes
  );
};

const BY: Record<Order, (row: TakeRow) => number> = {
  spread: ({ reading }) => reading.spreadMs,
  bias: ({ reading }) => reading.biasMs,
  velocity: (row) => -meanVelocity(row),
  missing: ({ missing, extra }) => sum(missing) + sum(extra) / 1000,
};

/** Beside the rows: what each take is called, how it is played, where it lies, and what can be done with it. */
export function TakeHeads(props: TakeHeadsProps) {
  const { part, state, focus, scrolled, mayWrite, heard, onFocus, onScroll } = props;
  const { rows, assembled } = state;
  const { timeline } = useOpenBench();
  const dispatch = useAppDispatch();
  const [asked, setAsked] = useState<{ about: TakeQuestion; id: string } | null>(null);
  const asks = (about: TakeQuestion, row: number) => {
    const id = rows?.[row]?.take.id;
    // Once the menu it was chosen in has closed and given the focus back.
    if (id !== undefined) setTimeout(() => setAsked({ about, id }), 60);
  };
  const askedRow = rows?.find(({ take }) => take.id === asked?.id);
  const dialog = askedRow &&
    rows && {
      partId: part.id,
      lockedTo: part.lockedTo,
      timeline,
      row: askedRow,
      others: rows,
      // Bars each layer lays it in.
      laid: state.chosen.map((layer) => [...layer.keys()].filter((bar) => rows[layer[bar]] === askedRow)),
      onClose: () => setAsked(null),
    };
  // The same functions at every render: a head that shows nothing new is not rendered, and there may be many.
  const latest = useRef({ onFocus, onTake: heard.onTake, asks });
  useEffect(() => {
    latest.current = { onFocus, onTake: heard.onTake, asks };
  });
  const [focusOn] = useState(() => (row: number) => latest.current.onFocus(row));
  const [ask] = useState(() => (about: TakeQuestion, row: number) => latest.current.asks(about, row));
  const [hear] = useState(() => (id: string | null) => latest.current.onTake(id));
  const reorder = (order: Order) => {
    if (!rows) return;
    const value = BY[order];
    const known = (row: TakeRow) => (Number.isNaN(value(row)) ? Infinity : value(row));
    const ids = [...rows].sort((a, b) => known(a) - known(b)).map(({ take }) => take.id);
    changeAssembly(
      dispatch,
      `Order takes, ${ORDERS.find(({ value: own }) => own === order)?.words}`,
      part.id,
      (now, session) => {
        const takes = takesOfPart(now, session);
        return withTakes(
          now,
          ids.flatMap((id) => takes.find((take) => take.id === id) ?? []),
        );
      },
    );
  };
  return (
    <div className="flex w-44 shrink-0 flex-col max-sm:w-32 border-r border-rule-strong bg-ground">
      <div className="flex h-6 shrink-0 items-center border-b border-rule-strong px-2 text-quiet">
        <Menu
          trigger={
            <button
              type="button"
              disabled={!mayWrite || !rows || rows.length < 2}
              className="text-ink-2 hover:text-ink"
            >
              order ▾
            </button>
          }
          items={ORDERS.map(({ value, words }) => ({ label: words, onSelect: () => reorder(value) }))}
        />
      </div>
      <div
        className="h-32 shrink-0 overflow-hidden border-b border-rule-strong px-3 pt-2"
        data-testid="assembled"
      >
        <h2 className="font-semibold">Assembled</h2>
        {assembled && (
          <>
            <p>
              <span className="text-[1.15rem]">{spreadInWords(assembled.reading.spreadMs)}</span>
            </p>
            <p className="text-quiet text-ink-2">{counted(assembled.notes.start.length, 'note')}</p>
            <p className="text-quiet text-ink-2">
              {[
                ...heldInWords(assembled.seams.map(({ facts }) => facts)),
                ...(assembled.dropped.start.length > 0
                  ? [`${counted(assembled.dropped.start.length, 'double')} dropped`]
                  : []),
              ].join(', ') || 'no seam holds or cuts a note'}
            </p>
          </>
        )}
      </div>
      <div
        className="min-h-0 grow overflow-hidden"
        onWheel={(event) => onScroll(event.deltaY)}
        role="list"
        aria-label="Takes"
      >
        <div style={{ transform: `translateY(${-scrolled.top}px)` }}>
          {(rows ?? []).map((row, index) => (
            <TakeHead
              key={row.take.id}
              partId={part.id}
              lockedTo={part.lockedTo}
              timeline={timeline}
              row={row}
              index={index}
              count={rows?.length ?? 0}
              height={scrolled.height}
              isFocused={focus.row === index}
              isHeard={heard.take === row.take.id}
              mayWrite={mayWrite}
              onFocus={focusOn}
              onHear={hear}
              onAsk={ask}
            />
          ))}
          {rows?.length === 0 && (
            <p className="p-3 text-ink-2">
              No takes yet. Drop files here, or bring them in from other parts.
            </p>
          )}
        </div>
      </div>
      {dialog && asked?.about === 'slide' && <SlideDialog {...dialog} />}
      {dialog && asked?.about === 'passes' && (
        <PassesDialog {...dialog} inUse={dialog.laid.some((bars) => bars.length > 0)} />
      )}
      {dialog && asked?.about === 'out' && <TakeOutDialog {...dialog} />}
    </div>
  );
}

function heldInWords(seams: readonly { ringing: number; cut: number }[]): string[] {
  const ringing = seams.reduce((total, own) => total + own.ringing, 0);
  const cut = seams.reduce((total, own) => total + own.cut, 0);
  return [...(ringing > 0 ? [`${ringing} held over a seam`] : []), ...(cut > 0 ? [`${cut} cut`] : [])];
}
