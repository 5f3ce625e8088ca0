import type { Cell } from '@/editor';
import { loosestBars } from './loosest';
import { spreadInWords } from './takeWords';
import type { TakesState } from './useTakes';

const SHOWN = 8;

/** The bars that need a look most, each with the way there and what another take would make of it. */
export function WorstBars({ state, onFocus }: { state: TakesState; onFocus(cell: Cell): void }) {
  const { rows, chosen } = state;
  const list = loosestBars(state).slice(0, SHOWN);
  if (list.length === 0 || !rows) return null;
  return (
    <section aria-label="Loosest bars" className="border-b border-rule p-4">
      <h2 className="font-serif text-[1.05rem] font-semibold">Loosest bars</h2>
      <ul className="mt-1">
        {list.map(({ bar, spreadMs }) => {
          const row = chosen[0]?.[bar] ?? -1;
          const best = rows
            .map(({ reading, take }, at) => ({
              name: take.name,
              ms: at === row ? NaN : (reading.bars[bar]?.spreadMs ?? NaN),
            }))
            .filter(({ ms }) => ms < spreadMs - 0.5)
            .sort((a, b) => a.ms - b.ms)[0] as { name: string; ms: number } | undefined;
          return (
            <li key={bar}>
              <button
                type="button"
                onClick={() => onFocus({ row: Math.max(0, row), bar })}
                className="flex h-6 w-full items-center gap-2 text-left hover:bg-well"
              >
                <span className="w-14 shrink-0">bar {bar + 1}</span>
                <span className="w-16 shrink-0 text-right">{spreadInWords(spreadMs)}</span>
                <span className="min-w-0 truncate text-quiet text-ink-2">
                  {best ? `${best.name} ${spreadInWords(best.ms)}` : 'no tighter take'}
                </span>
              </button>
            </li>
          );
        })}
      </ul>
    </section>
  );
}
