import { CHART_WORDS, binInWords, valueInWords } from '@ordle/core';
import type { ChartBin, ChartKind } from '@ordle/core';
import { figures } from '@/words/counts';

interface ChartTableProps {
  kind: ChartKind;
  bins: readonly ChartBin[];
  onPick(bin: number, side: 'before' | 'after'): void;
}

/** The figures of a chart; bins without notes before and after are left out. */
export function ChartTable({ kind, bins, onPick }: ChartTableProps) {
  const { along, of } = CHART_WORDS[kind];
  const counted = kind === 'pedal' ? 'presses' : 'notes';
  const isCount = of === counted;
  const head = 'px-3 py-1 text-right font-normal';
  return (
    <table className="border-collapse text-left" data-testid="chart-table">
      <thead>
        <tr className="border-b border-rule-strong text-ink-2">
          <th scope="col" className="py-1 pr-3 font-normal">
            {along}
          </th>
          {!isCount && (
            <>
              <th scope="col" className={head}>
                {of}, as played
              </th>
              <th scope="col" className={head}>
                {of}, as cleaned
              </th>
            </>
          )}
          <th scope="col" className={head}>
            {counted}, as played
          </th>
          <th scope="col" className={head}>
            {counted}, as cleaned
          </th>
        </tr>
      </thead>
      <tbody>
        {bins.map((bin, at) =>
          bin.before.notes + bin.after.notes === 0 ? null : (
            <tr key={bin.from} className="border-b border-rule hover:bg-well">
              <th scope="row" className="py-0.5 pr-3 font-normal whitespace-nowrap">
                {binInWords(kind, bins, at)}
              </th>
              {!isCount &&
                (['before', 'after'] as const).map((side) => (
                  <td key={side} className="px-3 text-right">
                    {valueInWords(kind, bin[side].value)}
                  </td>
                ))}
              {(['before', 'after'] as const).map((side) => (
                <td key={side} className="px-3 text-right">
                  {bin[side].notes === 0 ? (
                    '0'
                  ) : (
                    <button
                      type="button"
                      title="Shows these notes on the Bench"
                      className="min-h-6 underline decoration-rule-strong underline-offset-2 hover:decoration-ink"
                      onClick={() => onPick(at, side)}
                    >
                      {figures(bin[side].notes)}
                    </button>
                  )}
                </td>
              ))}
            </tr>
          ),
        )}
      </tbody>
    </table>
  );
}
