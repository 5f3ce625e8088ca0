import { COMPARED_WORDS, type ComparisonView } from '@ordle/core';
import { useVirtualizer } from '@tanstack/react-virtual';
import { useRef } from 'react';
import { Button } from '@/ui';

const ROW = 24;

export type Difference = ComparisonView['notes'][number];

/** What is different, in order of time; a click goes there on the Bench. */
export function Differences(props: {
  rows: readonly Difference[];
  words(row: Difference): { place: string; note: string };
  onShow(row: Difference): void;
}) {
  const { rows, words, onShow } = props;
  const scroller = useRef<HTMLDivElement>(null);
  // eslint-disable-next-line react-hooks/incompatible-library -- the virtualizer keeps its own state by design
  const virtual = useVirtualizer({
    count: rows.length,
    getScrollElement: () => scroller.current,
    estimateSize: () => ROW,
    overscan: 10,
  });
  const signed = (value: number, unit: string) =>
    `${value > 0 ? '+' : '−'}${Math.abs(value).toFixed(Math.abs(value) < 9.95 && unit === ' ms' ? 1 : 0)}${unit}`;
  return (
    <div ref={scroller} className="h-44 overflow-y-auto border-t border-rule" tabIndex={0}>
      <ol aria-label="Differences" className="relative" style={{ height: virtual.getTotalSize() }}>
        {virtual.getVirtualItems().map(({ index, start }) => {
          const row = rows[index];
          const { place, note } = words(row);
          return (
            <li
              key={index}
              className="absolute inset-x-0 flex items-center gap-3 border-b border-rule"
              style={{ height: ROW, transform: `translateY(${start}px)` }}
            >
              <span className="w-20 text-ink-2">{place}</span>
              <span className="w-28 truncate">{note}</span>
              <span className="w-28 font-semibold">{COMPARED_WORDS[row.kind]}</span>
              <span className="min-w-0 grow truncate text-ink-2">
                {row.row >= 0 && row.other >= 0 && (
                  <>
                    {signed(row.laterMs, ' ms')}
                    {row.louder !== 0 && `, velocity ${signed(row.louder, '')}`}
                    {Math.abs(row.longerMs) >= 1 && `, length ${signed(row.longerMs, ' ms')}`}
                  </>
                )}
              </span>
              <Button look="quiet" className="h-6" onClick={() => onShow(row)}>
                Show
              </Button>
            </li>
          );
        })}
      </ol>
    </div>
  );
}
