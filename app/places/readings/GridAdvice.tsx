import { nameOfNoteValue, type Part } from '@ordle/core';
import type { PartReadings } from '@/engine/readingsView';
import { useAppDispatch } from '@/state/store';
import { Button } from '@/ui';
import { counted } from '@/words/counts';
import { quantizeTo } from './readingsActions';

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
  const best = reading.grids.reduce((most, { fit }) => Math.max(most, fit), 0);
  return (
    <section aria-label="Grids" className="flex flex-col gap-1 p-4">
      <h2 className="font-serif text-[1.05rem] font-semibold">
        Grids for {part.name}{' '}
        <span className="font-sans text-work font-normal text-ink-2">
          how much of the playing each explains, as it was played
        </span>
      </h2>
      {reading.grids.length === 0 && <p className="text-ink-2">There are no notes to explain.</p>}
      {reading.grids.map(({ grid, fit, collisions }) => (
        <div key={grid} className="flex h-8 items-center gap-3">
          <span className="w-14 shrink-0">{nameOfNoteValue(grid)}</span>
          <span className="h-3 w-56 shrink-0">
            <span
              className="block h-full"
              style={{
                width: `${100 * fit}%`,
                background: fit === best ? `var(--ink-part-${part.ink + 1})` : 'var(--rule-strong)',
              }}
            />
          </span>
          <span className="w-24 shrink-0">explains {Math.round(100 * fit)} %</span>
          <span className="grow text-ink-2">
            {collisions === 0
              ? 'no two notes meet'
              : `${counted(collisions, 'note')} would meet another of the same pitch`}
          </span>
          <Button
            disabled={!mayWrite}
            aria-label={`Quantize to ${nameOfNoteValue(grid)}`}
            onClick={() => quantizeTo(dispatch, part, grid)}
          >
            Use
          </Button>
        </div>
      ))}
    </section>
  );
}
