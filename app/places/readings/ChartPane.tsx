import { sentenceOf, type ChartKind, type Part, type Session, type Where, CHART_WORDS } from '@ordle/core';
import { lazy, Suspense, useState } from 'react';
import { toast } from 'sonner';
import { engine } from '@/engine/engineClient';
import { useShowOnBench } from '@/panels/useShowOnBench';
import { Segmented, useWidthOf } from '@/ui';
import { ChartExits } from './ChartExits';
import { ChartTable } from './ChartTable';
import { binUnder } from './chartWords';
import { useChart } from './useChart';

/** The charts are a large package: they come when the first of them is shown. */
const Drawing = lazy(() => import('./Drawing'));

interface ChartPaneProps {
  session: Session;
  part: Part;
  kind: ChartKind;
  grid: string;
  where: Where;
  asTable: boolean;
  onAsTable(asTable: boolean): void;
}

const HEIGHT = 208;

/** One chart of a part, large or as a table, with its ways out: copied, saved, or to its notes on the Bench. */
export function ChartPane({ session, part, kind, grid, where, asTable, onAsTable }: ChartPaneProps) {
  const { bins, error } = useChart({ session, partId: part.id, kind, grid, where });
  const show = useShowOnBench();
  const [box, setBox] = useState<HTMLDivElement | null>(null);
  const width = useWidthOf(box);
  const words = CHART_WORDS[kind];
  const name = `${part.name}, ${words.name.toLowerCase()}`;
  const pick = (bin: number, side?: 'before' | 'after') => {
    const own = bins?.at(bin);
    if (!own) return;
    const from = side ?? (own.after.notes > 0 ? 'after' : 'before');
    if (own[from].notes === 0) return;
    engine.chartNotes({ session, partId: part.id, kind, grid, where, side: from, bin }).then(
      ({ ids, tick }) =>
        show({ partId: part.id, notes: [...ids], tick }, from === 'before' ? 'played' : 'cleaned'),
      (reason: unknown) => toast.error(sentenceOf(reason)),
    );
  };
  const isNothing = bins?.every(({ before, after }) => before.notes + after.notes === 0) ?? false;
  return (
    <section aria-label={words.name} className="flex min-w-0 grow flex-col gap-2 py-3 pr-4">
      <header className="flex items-center gap-2">
        <p className="min-w-0 grow text-ink-2">
          {words.tells} {!asTable && !isNothing && 'Click one to see its notes.'}
        </p>
        <div className="w-28 shrink-0">
          <Segmented
            label="How the figures are shown"
            value={asTable ? 'table' : 'chart'}
            options={[
              { value: 'chart', label: 'chart' },
              { value: 'table', label: 'table' },
            ]}
            onChange={(next) => onAsTable(next === 'table')}
          />
        </div>
        <ChartExits
          name={name}
          kind={kind}
          bins={isNothing ? null : bins}
          isDrawn={!asTable}
          drawn={() => box?.querySelector('svg') ?? null}
        />
      </header>
      {error && <p role="alert">{error}</p>}
      {isNothing && (
        <p className="text-ink-2">
          {kind === 'pedal'
            ? 'No press of the pedal belongs to a note here.'
            : 'There are no notes here to tell of.'}
        </p>
      )}
      <div ref={setBox} style={{ minHeight: HEIGHT }} data-testid="chart" data-kind={bins ? kind : ''}>
        {bins && !isNothing && asTable && <ChartTable kind={kind} bins={bins} onPick={pick} />}
        {bins && !isNothing && !asTable && width > 0 && (
          <figure
            role="img"
            aria-label={`${name}; the table has the same figures`}
            className="cursor-pointer"
            onClick={(event) => {
              // Where it was clicked says which bar, without a hover before.
              const x = event.clientX - event.currentTarget.getBoundingClientRect().left;
              const bin = binUnder(kind, bins.length, x, width);
              if (bin !== null) pick(bin);
            }}
          >
            <Suspense fallback={null}>
              <Drawing kind={kind} bins={bins} ink={part.ink} width={width} height={HEIGHT} />
            </Suspense>
          </figure>
        )}
      </div>
    </section>
  );
}
