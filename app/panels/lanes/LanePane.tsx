import { useOpenBench } from '@/music/useBench';
import { useSortable } from '@dnd-kit/sortable';
import { CSS } from '@dnd-kit/utilities';
import { PEDAL_LANES, laneName } from '@ordle/core';
import { ChevronDown, ChevronRight, X } from 'lucide-react';
import { useRef, useState, type PointerEvent } from 'react';
import { readOut } from '@/editor';
import { useAppDispatch } from '@/state/store';
import { viewChanged } from '@/state/viewSlice';
import { MoreMenu, WithMenu, type MenuItem } from '@/ui';
import { CopyCurveDialog } from './CopyCurveDialog';
import { LineList } from './LineList';
import { PointList } from './PointList';
import { SelectedValue, contentInWords } from './SelectedValue';
import type { ShownLane } from '@/music/laneList';
import { placeInWords } from '@/panels/notes/noteColumns';
import { useLane, type LaneOptions } from './useLane';

interface LanePaneProps extends LaneOptions {
  onChange(change: Partial<ShownLane>): void;
  onClose(): void;
}

const NONE: ReadonlySet<number> = new Set();
const LEAST_HEIGHT = 36;
const MOST_HEIGHT = 320;

/**
 * One lane: its name and the value under the pointer above, the curve below; its lower edge is dragged to make it
 * higher.
 */
export function LanePane({ editor, stack, playing, shown, along, onChange, onClose }: LanePaneProps) {
  const bench = useOpenBench();
  const { canvas, playLine, current, point, selected, lines, lane } = useLane({
    editor,
    stack,
    playing,
    shown,
    along,
  });
  const [copying, setCopying] = useState(false);
  const dispatch = useAppDispatch();
  const { part, timeline, mayWrite } = bench;
  const name = laneName(shown.lane);
  const { setNodeRef, transform, transition, listeners } = useSortable({ id: shown.lane });

  const [lists, setLists] = useState(false);
  const [listsLines, setListsLines] = useState(false);
  const isPointed = useRef(false);
  const isPedal = PEDAL_LANES.has(shown.lane);
  const some = isPedal ? 'press' : 'point';
  const laneItems: MenuItem[] = [
    {
      label: `Put a ${some} at the play line`,
      hint: 'Insert',
      disabled: !mayWrite,
      onSelect: () => lane.current?.insert(),
    },
    {
      label: `Select all ${some === 'press' ? 'presses' : 'points'}`,
      hint: 'Ctrl+A',
      onSelect: () => lane.current?.selectAll(),
    },
    { label: 'List of points', checked: lists, onSelect: () => setLists(!lists) },
    ...(isPedal
      ? []
      : [
          {
            label: 'Put a line at the play line',
            disabled: !mayWrite,
            onSelect: () => {
              setListsLines(true);
              lane.current?.insertLine();
            },
          },
          {
            label: 'List of drawn lines',
            checked: listsLines,
            onSelect: () => setListsLines(!listsLines),
          },
        ]),
    {
      label: 'Copy this curve to other parts',
      hint: 'as a step',
      disabled: !mayWrite || bench.session.parts.order.length < 2 || !current || current.points.length === 0,
      onSelect: () => setCopying(true),
    },
    { label: 'Close the lane', disabled: shown.withStep, onSelect: onClose },
  ];
  const pointItems = (): (MenuItem | null)[] => [
    {
      label: `Delete the selected ${some === 'press' ? 'presses' : 'points'}`,
      hint: 'Delete',
      disabled: !mayWrite,
      onSelect: () => lane.current?.deleteSelected(),
    },
    {
      label: isPedal ? 'Type the depth' : 'Type the value',
      disabled: !mayWrite,
      onSelect: () =>
        setTimeout(
          () => document.querySelector<HTMLInputElement>(`[data-field="value-${shown.lane}"]`)?.focus(),
          60,
        ),
    },
    null,
  ];
  const [only] = selected.size === 1 ? [...selected] : [];
  const selectedInWords =
    only !== undefined && current && only < current.points.length
      ? `${placeInWords(current.points.tick[only], { timeline, time: bench.view.time })}, ${readOut(shown.lane, current.points.value[only])}.`
      : '';

  const resize = (event: PointerEvent<HTMLDivElement>) => {
    const [from, height] = [event.clientY, shown.height];
    const held = event.currentTarget;
    held.setPointerCapture(event.pointerId);
    const move = (now: globalThis.PointerEvent) =>
      onChange({ height: Math.min(MOST_HEIGHT, Math.max(LEAST_HEIGHT, height + now.clientY - from)) });
    const end = () => {
      held.removeEventListener('pointermove', move);
      held.removeEventListener('pointerup', end);
    };
    held.addEventListener('pointermove', move);
    held.addEventListener('pointerup', end);
  };

  return (
    <section
      ref={setNodeRef}
      aria-label={`Lane ${name}`}
      style={{ transform: CSS.Translate.toString(transform), transition }}
      className="shrink-0 border-b border-rule bg-sheet"
    >
      <header className="flex h-5.5 items-center gap-1.5 px-1.5 text-quiet">
        <button
          type="button"
          aria-label={shown.folded ? `Unfold ${name}` : `Fold ${name}`}
          aria-expanded={!shown.folded}
          onClick={() => onChange({ folded: !shown.folded })}
          className="text-ink-2 hover:text-ink"
        >
          {shown.folded ? (
            <ChevronRight size={13} aria-hidden="true" />
          ) : (
            <ChevronDown size={13} aria-hidden="true" />
          )}
        </button>
        <span {...listeners} className="cursor-grab font-semibold" title="Drag to another place">
          {name}
        </span>
        <span className="text-ink-2" data-testid={`points-${shown.lane}`}>
          {current ? contentInWords(current, selected) : ''}
        </span>
        {current && mayWrite && (
          <SelectedValue
            lane={current}
            selected={selected}
            onChange={(value) => lane.current?.setValue(value)}
            onLeave={() => canvas.current?.focus()}
          />
        )}
        {current?.others.map(({ partId, name: from, ink, points }) => (
          <button
            key={partId}
            type="button"
            title={`${from} is on the same channel, so this holds here too. It is edited in ${from}.`}
            onClick={() => dispatch(viewChanged({ partId }))}
            className="truncate text-ink-2 underline decoration-dotted underline-offset-2 hover:text-ink"
          >
            <span
              aria-hidden="true"
              className="mr-1 inline-block h-2 w-2"
              style={{ background: `var(--ink-part-${ink + 1})` }}
            />
            {contentInWords({ lane: shown.lane, points }, NONE)} from {from}
          </button>
        ))}
        <span className="ml-auto text-ink-2 tabular-nums">
          {point &&
            `${placeInWords(point.at, { timeline, time: bench.view.time })}: ${readOut(shown.lane, point.value)}`}
        </span>
        {current && <MoreMenu name={name} items={laneItems} />}
        {!shown.withStep && (
          <button
            type="button"
            aria-label={`Close ${name}`}
            onClick={onClose}
            className="text-ink-2 hover:text-ink"
          >
            <X size={13} aria-hidden="true" />
          </button>
        )}
      </header>
      {!shown.folded && (
        <>
          <div className="relative overflow-hidden" style={{ height: shown.height }}>
            <WithMenu
              items={() => [...(isPointed.current ? pointItems() : []), ...laneItems]}
              onAsk={({ x, y, byKey }) => {
                const box = canvas.current?.getBoundingClientRect();
                isPointed.current = byKey
                  ? selected.size > 0
                  : box !== undefined && lane.current?.standAt(x - box.left, y - box.top) === true;
              }}
            >
              <canvas
                ref={canvas}
                tabIndex={0}
                role="application"
                aria-roledescription="lane"
                data-testid={`lane-${shown.lane}`}
                aria-label={`${name}: ${current ? contentInWords(current, selected) : ''}. ${selectedInWords} Full stop and comma go from point to point, Insert puts one at the play line, arrows move what is selected, Delete removes it.`}
                className="absolute inset-0 h-full w-full touch-none focus-visible:outline-offset-[-2px]"
              />
            </WithMenu>
            <div
              ref={playLine}
              aria-hidden="true"
              className="pointer-events-none absolute inset-y-0 left-0 w-px bg-accent"
            />
          </div>
          <div
            role="separator"
            aria-orientation="horizontal"
            aria-label={`Height of ${name}`}
            aria-valuenow={shown.height}
            aria-valuemin={LEAST_HEIGHT}
            aria-valuemax={MOST_HEIGHT}
            tabIndex={0}
            onPointerDown={resize}
            onKeyDown={(event) => {
              const by = event.key === 'ArrowDown' ? 12 : event.key === 'ArrowUp' ? -12 : 0;
              if (by === 0) return;
              event.preventDefault();
              event.stopPropagation();
              onChange({ height: Math.min(MOST_HEIGHT, Math.max(LEAST_HEIGHT, shown.height + by)) });
            }}
            className="h-1 cursor-ns-resize hover:bg-rule-strong"
          />
        </>
      )}
      {lists && current && (
        <PointList
          lane={current}
          selected={selected}
          mayWrite={mayWrite}
          onSelect={(rows) => lane.current?.select(rows)}
          onValue={(value) => lane.current?.setValue(value)}
          onMove={(ticks) => lane.current?.moveBy(ticks)}
          onDelete={() => lane.current?.deleteSelected()}
        />
      )}
      {listsLines && current && (
        <LineList
          lane={current}
          lines={lines}
          mayWrite={mayWrite}
          onReshape={(line, next) => lane.current?.reshape(line, next)}
        />
      )}
      {copying && current && part && (
        <CopyCurveDialog part={part} lane={current} onClose={() => setCopying(false)} />
      )}
    </section>
  );
}
