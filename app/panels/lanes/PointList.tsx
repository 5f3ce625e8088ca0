import { tickAtPosition, laneName, type LaneView, type TypedValue } from '@ordle/core';
import { useVirtualizer } from '@tanstack/react-virtual';
import { useRef, useState, type KeyboardEvent } from 'react';
import { readOut } from '@/editor';
import { parsePosition } from '@/edits/typedValues';
import { useOpenBench } from '@/music/useBench';
import { placeInWords } from '@/panels/notes/noteColumns';
import { TypedField } from '@/ui';
import { parseLaneValue, shownLaneValue } from './laneValues';

interface PointListProps {
  lane: LaneView;
  selected: ReadonlySet<number>;
  mayWrite: boolean;
  onSelect(rows: readonly number[]): void;
  /** What is done to the points selected. */
  onValue(value: TypedValue): void;
  onMove(ticks: number): void;
  onDelete(): void;
}

const ROW = 24;

/** The points of a lane as a table: walked, selected and typed like the list of notes. */
export function PointList(props: PointListProps) {
  const { lane, selected, mayWrite, onSelect, onValue, onMove, onDelete } = props;
  const { timeline, view } = useOpenBench();
  const scroller = useRef<HTMLDivElement>(null);
  const [focus, setFocus] = useState(0);
  const { points, low } = lane;
  // eslint-disable-next-line react-hooks/incompatible-library -- the virtualizer keeps its own state by design
  const virtual = useVirtualizer({
    count: points.length,
    getScrollElement: () => scroller.current,
    estimateSize: () => ROW,
    overscan: 10,
  });
  const stand = (row: number, adds: boolean) => {
    const next = Math.min(points.length - 1, Math.max(0, row));
    if (next < 0) return;
    const [from, to] = focus < next ? [focus, next] : [next, focus];
    onSelect(adds ? Array.from({ length: to - from + 1 }, (_, at) => from + at) : [next]);
    if (!adds) setFocus(next);
    virtual.scrollToIndex(next, { align: 'auto' });
  };
  const onKeyDown = (event: KeyboardEvent) => {
    if (event.target !== event.currentTarget) return;
    const by = { ArrowDown: 1, ArrowUp: -1, PageDown: 12, PageUp: -12 }[event.key];
    if (by !== undefined) stand(focus + by, event.shiftKey);
    else if (event.key === 'Delete' && mayWrite) onDelete();
    else return;
    event.preventDefault();
    event.stopPropagation();
  };
  return (
    <div
      ref={scroller}
      role="grid"
      aria-label={`Points of ${laneName(lane.lane)}`}
      aria-rowcount={points.length}
      aria-multiselectable
      tabIndex={0}
      onKeyDown={onKeyDown}
      className="max-h-40 overflow-y-auto border-t border-rule focus-visible:outline-offset-[-2px]"
    >
      {points.length === 0 && (
        <p className="px-3 py-1 text-ink-2">No points yet. Insert puts one at the play line.</p>
      )}
      <div role="presentation" className="relative" style={{ height: virtual.getTotalSize() }}>
        {virtual.getVirtualItems().map(({ index, start }) => {
          const [tick, value] = [points.tick[index], points.value[index]];
          const isSelected = selected.has(index);
          return (
            <div
              key={index}
              role="row"
              aria-rowindex={index + 1}
              aria-selected={isSelected}
              onClick={(event) => stand(index, event.shiftKey)}
              style={{ transform: `translateY(${start}px)`, height: ROW }}
              className={`absolute flex w-full items-center gap-4 border-b border-rule px-3 ${isSelected ? 'bg-well' : 'hover:bg-well/60'}`}
            >
              <span role="gridcell">
                <TypedField
                  label={`Place of point ${index + 1}`}
                  className="w-24"
                  disabled={!mayWrite}
                  shown={placeInWords(tick, { timeline, time: view.time })}
                  onCommit={(text) => {
                    const to = parsePosition(text, (place) => tickAtPosition(timeline.meter, place));
                    if (!to) return;
                    onSelect([index]);
                    onMove(to.relative ? to.value : to.value - tick);
                  }}
                />
              </span>
              <span role="gridcell">
                <TypedField
                  label={`Value of point ${index + 1}`}
                  className="w-16"
                  disabled={!mayWrite}
                  shown={shownLaneValue(lane.lane, value)}
                  onCommit={(text) => {
                    const to = parseLaneValue(text, lane.lane, low);
                    if (!to) return;
                    onSelect([index]);
                    onValue(to);
                  }}
                />
              </span>
              <span role="gridcell" className="text-ink-2">
                {readOut(lane.lane, value)}
              </span>
            </div>
          );
        })}
      </div>
    </div>
  );
}
