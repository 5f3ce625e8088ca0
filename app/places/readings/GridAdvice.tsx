import { nameOfNoteValue, type GridAdvice as Advice, type Part, type PartReadings } from '@ordle/core';
import { useAppDispatch } from '@/state/store';
import { Button } from '@/ui';
import { counted, figures } from '@/words/counts';
import { quantizeTo } from '@/steps/suggestedSteps';

/** How well each usual grid explains a part as it was played, and what it would harm. */
export function GridAdvice({
  part,
  reading,
  mayWrite,
}: {
  part: Part;
  reading: PartReadings;
  mayWrite: boolean;
}) {
  const dispatch = useAppDispatch();
  return (
    <section aria-label="Grids" className="flex min-w-0 grow flex-col gap-1 py-3 pr-4">
      <p className="pb-1 text-ink-2">How well each grid fits the playing, and what it would damage.</p>
      {reading.grids.length === 0 && <p className="text-ink-2">There are no notes to explain.</p>}
      {reading.grids.map((advice) => (
        <div
          key={`${advice.grid} ${advice.swing}`}
          className="flex min-h-8 items-center gap-3 narrow:flex-wrap narrow:gap-x-2 narrow:border-b narrow:border-rule narrow:pb-1"
        >
          <span className="w-24 shrink-0">{gridInWords(advice)}</span>
          <span className="h-3 w-32 shrink-0 max-xl:w-14">
            <span
              className="block h-full"
              style={{
                width: `${100 * advice.fit}%`,
                background: advice.isLikely ? `var(--ink-part-${part.ink + 1})` : 'var(--edge)',
              }}
            />
          </span>
          <span className="w-24 shrink-0">fits {Math.round(100 * advice.fit)} %</span>
          <span className="min-w-0 grow text-ink-2">{harmInWords(advice)}</span>
          <Button
            className="shrink-0"
            disabled={!mayWrite}
            aria-label={`Quantize to ${gridInWords(advice)}`}
            onClick={() => quantizeTo(dispatch, part, advice)}
          >
            Use
          </Button>
        </div>
      ))}
    </section>
  );
}

const gridInWords = ({ grid, swing }: Pick<Advice, 'grid' | 'swing'>) =>
  `${nameOfNoteValue(grid)}${swing === 50 ? '' : `, swing ${swing} %`}`;

/** What a grid would harm; what would be heard most is told first. */
function harmInWords({ collisions, astray, flattened, stepMs, isTooFine, isLikely }: Advice): string {
  const harms = [
    ...(flattened > 0 ? [`flattens the swing of ${counted(flattened, 'note')}`] : []),
    ...(astray > 0 ? [`${counted(astray, 'note')} would land on the wrong grid line`] : []),
    ...(collisions > 0 ? [`${figures(collisions)} would land on another note of the same pitch`] : []),
    ...(isTooFine ? [`too fine for this playing: lines ${Math.round(stepMs)} ms apart`] : []),
  ];
  const likely = isLikely ? 'likely meant; ' : '';
  return `${likely}${harms.length === 0 ? 'no damage' : harms.join(', ')}`;
}
