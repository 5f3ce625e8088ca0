import { listOf, recordedWith, type Part } from '@ordle/core';
import { useOpenBench } from '@/music/useBench';
import { useAppDispatch } from '@/state/store';
import { Check } from '@/ui';
import { namesOf, seenOf, setRecordedWith } from './tempoActions';

/**
 * Which parts were recorded together: the beats are found over all of them, and they follow, or are followed, as one.
 */
export function RecordedTogether({ part }: { part: Part }) {
  const { session, mayWrite } = useOpenBench();
  const dispatch = useAppDispatch();
  const together = recordedWith(part, session);
  const others = seenOf(listOf(session.parts)).filter(({ id }) => id !== part.id);
  if (others.length === 0) return null;
  const ids = new Set(together.map(({ id }) => id));
  const isAlone = together.length === 1;
  return (
    <section aria-label="Recorded together" className="flex flex-col gap-1">
      <p data-testid="recorded-together">
        {isAlone
          ? `${part.name} by itself: its own beats, and nothing goes with it.`
          : `${namesOf(seenOf(together))} were recorded together: the beats are found over all of them, and all go together.`}
      </p>
      <details>
        <summary className="cursor-pointer text-ink-2">recorded with {part.name}</summary>
        <div className="mt-1 flex flex-col">
          {others.map((other) => (
            <Check
              key={other.id}
              checked={ids.has(other.id)}
              disabled={!mayWrite}
              onChange={(on) => setRecordedWith(dispatch, other, part, on)}
            >
              {other.name}
            </Check>
          ))}
        </div>
      </details>
    </section>
  );
}
