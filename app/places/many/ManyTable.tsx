import { useVirtualizer } from '@tanstack/react-virtual';
import { useMemo, useRef, useState, type ComponentProps } from 'react';
import { SearchField } from '@/ui';
import type { ManyFile } from '@/storage/manyFiles';
import { listedFiles, type Column, type Order } from './manyList';
import { ManyRow } from './ManyRow';
import type { HeardFile } from './useHearFile';

const ROW = 36;
const COLUMNS: { by: Column; words: string; className: string }[] = [
  { by: 'path', words: 'file', className: 'min-w-32 grow basis-40' },
  { by: 'state', words: 'as it came, cleaned', className: 'w-43 shrink-0 narrow:w-auto' },
  { by: 'notes', words: 'notes', className: 'w-24 shrink-0 text-right max-sm:hidden' },
  { by: 'changed', words: 'changed', className: 'w-32 shrink-0 text-right max-sm:w-24' },
];

type OfRows = Omit<ComponentProps<typeof ManyRow>, 'file' | 'heard'>;

interface ManyTableProps extends OfRows {
  files: readonly ManyFile[];
  heard: HeardFile | null;
}

/** The files as a list that can be searched and put in order by its columns. */
export function ManyTable({ files, heard, ...rest }: ManyTableProps) {
  const [search, setSearch] = useState('');
  const [order, setOrder] = useState<Order>({ by: 'path', isUp: true });
  const scroller = useRef<HTMLDivElement>(null);
  const rows = useMemo(() => listedFiles(files, search, order), [files, search, order]);
  // eslint-disable-next-line react-hooks/incompatible-library -- its functions are not handed on
  const virtual = useVirtualizer({
    count: rows.length,
    getScrollElement: () => scroller.current,
    estimateSize: () => ROW,
    overscan: 12,
  });
  return (
    <div role="table" aria-label="Files" aria-rowcount={rows.length} className="flex min-h-40 grow flex-col">
      <div
        role="row"
        className="flex h-8 items-center gap-3 border-b border-rule-strong pr-1 pl-2 text-quiet"
      >
        {COLUMNS.map(({ by, words, className }) => (
          <span
            key={by}
            role="columnheader"
            aria-sort={order.by === by ? (order.isUp ? 'ascending' : 'descending') : 'none'}
            className={className}
          >
            <button
              type="button"
              className="hover:underline"
              onClick={() =>
                setOrder({
                  by,
                  isUp: order.by === by ? !order.isUp : by === 'path' || by === 'state',
                })
              }
            >
              {words} {order.by === by && (order.isUp ? '▴' : '▾')}
            </button>
          </span>
        ))}
        <span role="columnheader" className="flex w-48 shrink-0 justify-end max-sm:hidden">
          <SearchField label="Search the files" value={search} onChange={setSearch} className="h-6 w-40" />
        </span>
      </div>
      <div ref={scroller} role="rowgroup" tabIndex={0} className="min-h-0 grow overflow-y-auto">
        {rows.length === 0 && <p className="p-2 text-ink-2">No match among the files.</p>}
        <div className="relative" style={{ height: virtual.getTotalSize() }}>
          {virtual.getVirtualItems().map(({ key, index, start: top }) => (
            <div
              key={key}
              role="presentation"
              className="absolute inset-x-0"
              style={{ transform: `translateY(${top}px)` }}
            >
              <ManyRow
                file={rows[index]}
                heard={heard?.index === rows[index].index ? heard.which : null}
                {...rest}
              />
            </div>
          ))}
        </div>
      </div>
    </div>
  );
}
