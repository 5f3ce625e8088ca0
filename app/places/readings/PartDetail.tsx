import {
  CHART_KINDS,
  type ChartKind,
  type Part,
  type Session,
  type PartReadings,
  CHART_WORDS,
} from '@ordle/core';
import { counted, msInWords } from '@/words/counts';
import { ChartPane } from './ChartPane';
import { ComparePane } from './ComparePane';
import { GridAdvice } from './GridAdvice';
import { HarmonyPane } from './HarmonyPane';
import { ScorePane } from './ScorePane';
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

const OTHERS = { grids: 'Grids', harmony: 'Chords and key', compare: 'Compare', score: 'By the score' };
const nameOf = (shown: ReadingsChoice['shown']) =>
  shown in OTHERS ? OTHERS[shown as keyof typeof OTHERS] : CHART_WORDS[shown as ChartKind].name;

/** One part more closely: its grids, or one of its charts, chosen by name. */
export function PartDetail({ session, part, reading, grid, mayWrite, choice, choose }: PartDetailProps) {
  const hasScore = part.reference !== undefined;
  const { where, asTable } = choice;
  const shown = choice.shown === 'score' && !hasScore ? 'grids' : choice.shown;
  return (
    <div className="flex min-h-0 grow flex-col">
      <Figures reading={reading} />
      <div className="flex min-h-0 grow gap-6 narrow:flex-col narrow:gap-1 narrow:overflow-y-auto">
        <nav
          aria-label={`More of ${part.name}`}
          className="flex w-44 shrink-0 flex-col overflow-y-auto border-r border-rule py-3 narrow:w-auto narrow:flex-row narrow:flex-wrap narrow:border-r-0 narrow:py-1"
        >
          <h2 className="shrink-0 truncate px-4 pb-1 font-serif text-[1.05rem] font-semibold">{part.name}</h2>
          {(
            [...(hasScore ? ['score' as const] : []), 'grids', ...CHART_KINDS, 'harmony', 'compare'] as const
          ).map((each) => (
            <button
              key={each}
              type="button"
              aria-pressed={shown === each}
              className={`h-6 shrink-0 px-4 text-left ${shown === each ? 'bg-well font-semibold' : 'text-ink-2 hover:text-ink'}`}
              onClick={() => choose({ shown: each })}
            >
              {nameOf(each)}
            </button>
          ))}
        </nav>
        <div className="flex min-w-0 grow overflow-y-auto narrow:overflow-visible narrow:px-3" tabIndex={0}>
          {shown === 'score' ? (
            <ScorePane key={part.id} session={session} part={part} />
          ) : shown === 'grids' ? (
            <GridAdvice part={part} reading={reading} mayWrite={mayWrite} />
          ) : shown === 'harmony' ? (
            <HarmonyPane session={session} part={part} />
          ) : shown === 'compare' ? (
            <ComparePane key={part.id} session={session} part={part} />
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
      </div>
    </div>
  );
}

/** The figures of the part as cleaned in full, those of time in ms and in ticks. */
function Figures({ reading: { cleaned } }: { reading: PartReadings }) {
  const { notes, biasMs, spreadMs, biasTicks, spreadTicks, velocity, velocities } = cleaned;
  if (biasMs === null || spreadMs === null || biasTicks === null || spreadTicks === null || !velocities)
    return null;
  return (
    <p className="border-b border-rule px-4 py-1 text-ink-2" data-testid="figures">
      As cleaned: {counted(notes, 'note')}; uneven by {msInWords(spreadMs)} ms ({spreadTicks.toFixed(1)}{' '}
      ticks); {biasMs < 0 ? 'early' : 'late'} {msInWords(Math.abs(biasMs))} ms (
      {Math.abs(biasTicks).toFixed(1)} ticks) on average; velocity {velocity?.toFixed(0)} ±{' '}
      {velocities.deviation.toFixed(0)}, {Math.round(velocities.low)} to {Math.round(velocities.high)}
    </p>
  );
}
