import { usePartViewValue } from '@/music/partViewStore';
import { useHolding } from '@/playback/holding';
import { msInWords } from '@/words/counts';
import { BigFigure } from './BigFigure';

/**
 * The figure that falls: how far the part is off the grid at the current stop, and what it was as played; as long as
 * it is held as played, that. What is played is measured against the grid that is shown, whatever a step is set to, and
 * where a step goes by another it is said against what.
 */
export function OffTheGrid({ partId }: { partId: string }) {
  const holding = useHolding();
  const here = usePartViewValue(partId, ({ offMs, stop }) => offMs[stop] ?? NaN) ?? NaN;
  const played = usePartViewValue(partId, ({ offMs }) => offMs[0] ?? NaN) ?? NaN;
  const by = usePartViewValue(partId, ({ measuredBy }) => measuredBy.join(' and ')) ?? '';
  const playedBy = usePartViewValue(partId, (view) => view.playedBy) ?? '';
  const count = usePartViewValue(partId, ({ notes }) => notes.length) ?? 0;
  if (count === 0 || Number.isNaN(here)) return null;
  return (
    <BigFigure
      name="Off the grid"
      testId="off-the-grid"
      figure={msInWords(holding ? played : here)}
      says={`ms off ${holding || by === playedBy ? 'the grid' : by}`}
      was={
        holding
          ? `as played, against ${playedBy}`
          : by === playedBy && msInWords(here) === msInWords(played)
            ? 'as played'
            : `was ${msInWords(played)} as played${by === playedBy ? '' : `, against ${playedBy}`}`
      }
    />
  );
}
