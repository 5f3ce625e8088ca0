import { takesIn, listOf, itemOf, type Part, type PartContent } from '@ordle/core';
import { useVirtualizer } from '@tanstack/react-virtual';
import { Ellipsis, Eye, EyeOff } from 'lucide-react';
import { memo, useEffect, useState, type ReactNode } from 'react';
import { toast } from 'sonner';
import { useCommands } from '@/commands';
import { edit } from '@/state/sessionSlice';
import { useAppDispatch } from '@/state/store';
import { togetherToggled, shownToggled, viewChanged } from '@/state/viewSlice';
import { deletePart } from '@/edits/deletePart';
import { Button, WithMenu } from '@/ui';
import { FoldingPanel } from '@/panels/FoldingPanel';
import { PartSettings, partOf } from './PartSettings';
import { useOpenBench } from '@/music/useBench';
import { isWithoutNotes, partInWords, usePartContents } from '@/music/usePartContents';
import { useOffTheGrid } from '@/music/useOffTheGrid';
import { rulingGrid } from '@/music/gridInForce';
import { msInWords } from '@/words/counts';

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

interface PartRowProps {
  part: Part;
  isActive: boolean;
  isTogether: boolean;
  heard: boolean;
  shown: boolean;
  content: PartContent | undefined;
  /** How far it is off the grid as it is cleaned, in ms. */
  offMs: number | undefined;
  /** Rows of one line, so that all are as high. */
  single: boolean;
  mayWrite: boolean;
  onSettings(partId: string): void;
}

/** What a part sounds like; where that is its name already, the channel it is on. */
function soundInWords(part: Part, content: PartContent | undefined): string {
  const words = partInWords(part, content);
  return part.name.startsWith(words) ? `channel ${part.channel}` : words;
}

const inkOfPart = ({ ink }: Part) => `var(--ink-part-${ink + 1})`;

/** A part that is not heard keeps its ink, hatched. */
const hatched = (ink: string) => `repeating-linear-gradient(135deg, ${ink} 0 2px, var(--sheet) 2px 4px)`;

/** Kept from rendering again while another part is worked on. */
const PartRow = memo(function PartRow(props: PartRowProps) {
  const { part, isActive, isTogether, heard, mayWrite, onSettings } = props;
  const dispatch = useAppDispatch();
  const takes = takesIn(part).length;
  const shown = isActive || props.shown;
  const toggle = (key: 'muted' | 'soloed', label: string) =>
    dispatch(
      edit(label, (draft) => {
        const own = partOf(draft, part.id);
        if (own) own[key] = !own[key];
      }),
    );
  return (
    <WithMenu
      items={() => [
        {
          label: 'Set together with the active part',
          checked: isTogether,
          disabled: isActive,
          onSelect: () => dispatch(togetherToggled(part.id)),
        },
        {
          label: props.shown ? 'Show no longer' : 'Show behind the active part',
          disabled: isActive,
          onSelect: () => dispatch(shownToggled(part.id)),
        },
        null,
        {
          label: part.muted ? 'Unmute' : 'Mute',
          disabled: !mayWrite,
          onSelect: () => toggle('muted', part.muted ? `Unmute ${part.name}` : `Mute ${part.name}`),
        },
        {
          label: part.soloed ? 'End solo' : 'Solo',
          disabled: !mayWrite,
          onSelect: () => toggle('soloed', part.soloed ? `End solo of ${part.name}` : `Solo ${part.name}`),
        },
        null,
        {
          label: 'Name, colour and sound',
          onSelect: () => {
            dispatch(viewChanged({ partId: part.id, together: [] }));
            onSettings(part.id);
          },
        },
        {
          label: 'Delete part',
          disabled: !mayWrite,
          onSelect: () => deletePart(dispatch, part),
        },
      ]}
    >
      <li
        data-active={isActive}
        className={`group relative flex min-h-7 items-center border-l-3 ${isActive ? 'border-ink bg-sheet' : isTogether ? 'border-ink-3 bg-sheet' : 'border-transparent hover:bg-well/60'}`}
      >
        <button
          type="button"
          aria-current={isActive}
          aria-label={isTogether ? `${part.name}, selected together` : undefined}
          title={`${part.name}: ${partInWords(part, props.content)}. ${props.offMs === undefined ? '' : `${msInWords(props.offMs)} ms off the grid. `}Ctrl or Shift and click to set several parts together`}
          onClick={(event) =>
            dispatch(
              event.ctrlKey || event.metaKey || event.shiftKey
                ? togetherToggled(part.id)
                : viewChanged({ partId: part.id, together: [] }),
            )
          }
          className="flex min-w-0 grow items-center gap-2 py-1 pr-8 pl-2 text-left"
        >
          <span
            className={`w-2 shrink-0 rounded-[1px] ${isActive && !props.single ? 'h-11' : 'h-4.5'}`}
            style={{ background: heard ? inkOfPart(part) : hatched(inkOfPart(part)) }}
          />
          <span className="min-w-0">
            <span
              className={`block truncate ${isActive ? 'font-semibold' : ''} ${heard ? '' : 'text-ink-3'}`}
            >
              {part.name}
              {!isActive && isWithoutNotes(props.content) && (
                <span className="text-quiet text-ink-2">, {partInWords(part, props.content)}</span>
              )}
            </span>
            {isActive && !props.single && (
              <span className="-mr-7 block h-6 truncate text-quiet leading-6 text-ink-2">
                {soundInWords(part, props.content)}
                {takes > 1 && `, ${takes} takes`}
              </span>
            )}
          </span>
        </button>
        {props.offMs !== undefined && (
          <span
            className={`pointer-events-none absolute top-1 right-3 text-ink-2 ${isActive && !props.single ? 'group-focus-within:invisible group-hover:invisible' : part.muted || part.soloed ? 'hidden' : 'group-focus-within:invisible group-hover:invisible'}`}
          >
            {msInWords(props.offMs)}
          </span>
        )}
        {isActive && (
          <button
            type="button"
            aria-label={`Name, colour and sound of ${part.name}`}
            title="Name, colour and sound"
            onClick={() => onSettings(part.id)}
            className={`absolute flex top-0.5 right-1 h-6 w-6 items-center justify-center bg-sheet text-ink-2 hover:text-ink ${ON_DEMAND}`}
          >
            <Ellipsis size={13} aria-hidden="true" />
          </button>
        )}
        <span
          className={`absolute right-1 flex items-center gap-px ${isActive && !props.single ? 'bottom-px' : 'top-0.5'}`}
        >
          {!isActive && (
            <Toggle
              label={`Show ${part.name}`}
              on={shown}
              disabled={false}
              onClick={() => dispatch(shownToggled(part.id))}
            >
              {shown ? <Eye size={13} aria-hidden="true" /> : <EyeOff size={13} aria-hidden="true" />}
            </Toggle>
          )}
          <Toggle
            label={`Mute ${part.name}`}
            on={part.muted}
            filled
            disabled={!mayWrite}
            onClick={() => toggle('muted', part.muted ? `Unmute ${part.name}` : `Mute ${part.name}`)}
          >
            M
          </Toggle>
          <Toggle
            label={`Solo ${part.name}`}
            on={part.soloed}
            filled
            disabled={!mayWrite}
            onClick={() => toggle('soloed', part.soloed ? `End solo of ${part.name}` : `Solo ${part.name}`)}
          >
            S
          </Toggle>
        </span>
      </li>
    </WithMenu>
  );
});

/** Seen while the row is pointed at or holds the keyboard. */
const ON_DEMAND =
  'opacity-0 pointer-events-none group-focus-within:opacity-100 group-focus-within:pointer-events-auto group-hover:opacity-100 group-hover:pointer-events-auto pointer-coarse:opacity-100 pointer-coarse:pointer-events-auto';

interface ToggleProps {
  label: string;
  on: boolean;
  filled?: boolean;
  disabled: boolean;
  onClick(): void;
  children: React.ReactNode;
}

function Toggle({ label, on, filled = false, disabled, onClick, children }: ToggleProps) {
  const look = on
    ? filled
      ? 'border-set bg-set text-on-set'
      : 'border-transparent bg-sheet text-ink'
    : 'border-transparent bg-sheet text-ink-2 hover:border-edge hover:text-ink';
  return (
    <button
      type="button"
      aria-label={label}
      title={label}
      aria-pressed={on}
      disabled={disabled}
      onClick={onClick}
      className={`flex h-6 w-6 shrink-0 items-center justify-center rounded-small border text-quiet font-semibold ${look} ${on ? '' : ON_DEMAND}`}
    >
      {children}
    </button>
  );
}
