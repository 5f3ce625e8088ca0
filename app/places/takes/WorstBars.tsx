import type { Cell } from '@/editor';
import type { ProposalSettings } from '@/state/viewSlice';
import { loosestBars, tighterTake } from './loosest';
import { spreadInWords } from './takeWords';
import type { TakesState } from './useTakes';

const SHOWN = 8;

interface WorstBarsProps {
  state: TakesState;
  settings: ProposalSettings;
  onFocus(cell: Cell): void;
}

/** The bars that need a look most, each with the way there and what another take would make of it. */
export function WorstBars({ state, settings, onFocus }: WorstBarsProps) {
  const { rows, chosen } = state;
  const list = loosestBars(state).slice(0, SHOWN);
  if (list.length === 0 || !rows) return null;
  return (
    <section aria-label="Most uneven bars" className="border-b border-rule p-4">
      <h2 className="font-serif text-[1.05rem] font-semibold">Most uneven bars</h2>
      <ul className="mt-1">
        {list.map(({ bar, spreadMs }) => {
          const best = tighterTake(rows, chosen, bar, settings);
          return (
            <li key={bar}>
              <button
                type="button"
                onClick={() => onFocus({ row: Math.max(0, chosen[0]?.[bar] ?? -1), bar })}
                className="flex h-6 w-full items-center gap-2 text-left hover:bg-well"
              >
                <span className="w-14 shrink-0">bar {bar + 1}</span>
                <span className="w-16 shrink-0 text-right">{spreadInWords(spreadMs)}</span>
                <span className="flex min-w-0 gap-1 text-quiet text-ink-2">
                  <span className="truncate">{best ? best.take.name : 'no better take'}</span>
                  {best && <span className="shrink-0">{spreadInWords(best.reading.bars[bar].spreadMs)}</span>}
                </span>
              </button>
            </li>
          );
        })}
      </ul>
    </section>
  );
}
