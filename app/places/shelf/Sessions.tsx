import { lazy, Suspense, useCallback, useEffect, useMemo, useRef, useState } from 'react';
import { attempt } from '@/ui/attempt';
import { agoInWords } from '@/saving/SavingState';
import type { SessionSummary } from '@/storage/summary';
import { Button, SearchField, Select } from '@/ui';
import { counted } from '@/words/counts';
import { ORDERS, listed, type Order } from './order';
import { removeSessions } from './removeSessions';
import { SessionRow } from './SessionRow';

/** Fetched when something is selected: it brings all formats along. */
const WithSelected = lazy(async () => ({
  default: (await import('./selected/WithSelected')).WithSelected,
}));

/**
 * The sessions as a list that can be searched and put in order, and of which several can be selected and deleted
 * together.
 */
export function Sessions({ sessions, now }: { sessions: readonly SessionSummary[]; now: number }) {
  const [search, setSearch] = useState('');
  const [order, setOrder] = useState<Order>('changed');
  const [selected, setSelected] = useState<ReadonlySet<string>>(new Set());
  const last = useRef<string | null>(null);
  const shown = useMemo(() => listed(sessions, search, order), [sessions, search, order]);
  const rows = useRef(shown);
  useEffect(() => {
    rows.current = shown;
  });
  const onSelect = useCallback((id: string, range: boolean) => {
    const ids = rows.current.map((each) => each.id);
    const [from, to] = [ids.indexOf(last.current ?? id), ids.indexOf(id)].sort((a, b) => a - b);
    setSelected((before) => {
      const next = new Set(before);
      const selects = !before.has(id);
      for (const each of range && from >= 0 ? ids.slice(from, to + 1) : [id]) {
        if (selects) next.add(each);
        else next.delete(each);
      }
      return next;
    });
    last.current = id;
  }, []);
  // What is no longer in sight is not selected: nothing is deleted that is not seen.
  const chosen = shown.filter(({ id }) => selected.has(id));
  return (
    <section aria-label="Sessions on the shelf" className="flex flex-col gap-2">
      <div className="flex min-h-7 flex-wrap items-center gap-x-3 gap-y-1">
        <SearchField label="Search the sessions" value={search} onChange={setSearch} />
        <Select label="Order" value={order} onChange={(value) => setOrder(value as Order)}>
          {ORDERS.map(({ order: value, words }) => (
            <option key={value} value={value}>
              {words}
            </option>
          ))}
        </Select>
        <span role="status" className="ml-auto text-ink-2">
          {chosen.length > 0
            ? `${chosen.length} selected`
            : search.trim() === ''
              ? counted(sessions.length, 'session')
              : `${shown.length} of ${counted(sessions.length, 'session')}`}
        </span>
        {chosen.length < shown.length && (
          <Button look="quiet" onClick={() => setSelected(new Set(shown.map(({ id }) => id)))}>
            Select all
          </Button>
        )}
        {chosen.length > 0 && (
          <>
            <Button onClick={() => setSelected(new Set())}>Select none</Button>
            <Suspense>
              <WithSelected sessions={chosen} />
            </Suspense>
            <Button
              onClick={() => {
                setSelected(new Set());
                attempt(() => removeSessions(chosen));
              }}
            >
              Delete {counted(chosen.length, 'session')}
            </Button>
          </>
        )}
      </div>
      {shown.length === 0 && <p className="text-ink-2">No match among the sessions.</p>}
      <ul aria-label="Sessions" className="border-t border-rule-strong">
        {shown.map((session) => (
          <SessionRow
            key={session.id}
            session={session}
            ago={agoInWords(Math.max(0, now - session.changedAt))}
            isSelected={selected.has(session.id)}
            onSelect={onSelect}
          />
        ))}
      </ul>
    </section>
  );
}
