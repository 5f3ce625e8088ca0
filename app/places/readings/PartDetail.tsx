import { CHART_KINDS, type Part, type Session } from '@ordle/core';
import type { PartReadings } from '@/engine/readingsView';
import { ChartPane } from './ChartPane';
import { CHART_WORDS } from './chartWords';
import { GridAdvice } from './GridAdvice';
import type { ReadingsChoice } from './readingsChoice';

interface PartDetailProps {
  session: Session;
  part: Part;
  reading: PartReadings;
  grid: string;
  mayWrite: boolean;
  choice: ReadingsChoice;
  choose(change: Partial<ReadingsChoice>): void;
}

/** One part more closely: its grids, or one of its charts, chosen by name. */
export function PartDetail({ session, part, reading, grid, mayWrite, choice, choose }: PartDetailProps) {
  const { shown, where, asTable } = choice;
  return (
    <div className="flex min-h-[18rem] grow gap-6">
      <nav
        aria-label={`More of ${part.name}`}
        className="flex w-44 shrink-0 flex-col border-r border-rule py-3"
      >
        <h2 className="truncate px-4 pb-1 font-serif text-[1.05rem] font-semibold">{part.name}</h2>
        {(['grids', ...CHART_KINDS] as const).map((each) => (
          <button
            key={each}
            type="button"
            aria-pressed={shown === each}
            className={`h-6 px-4 text-left ${shown === each ? 'bg-well font-semibold' : 'text-ink-2 hover:text-ink'}`}
            onClick={() => choose({ shown: each })}
          >
            {each === 'grids' ? 'Grids' : CHART_WORDS[each].name}
          </button>
        ))}
      </nav>
      {shown === 'grids' ? (
        <GridAdvice part={part} reading={reading} mayWrite={mayWrite} />
      ) : (
        <ChartPane
          session={session}
          part={part}
          kind={shown}
          grid={grid}
          where={where}
          asTable={asTable}
          onAsTable={(next) => choose({ asTable: next })}
        />
      )}
    </div>
  );
}
