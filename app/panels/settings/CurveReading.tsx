import type { PartView } from '@ordle/core';
import { figures } from '@/words/counts';

/** What a curve step does to the points of its lane, in figures. */
export function CurveReading({ reading }: { reading: PartView['curve'] }) {
  if (!reading) return null;
  const { before, after, largestError, unit } = reading;
  return (
    <section aria-label="Effect" className="shrink-0">
      <dl>
        <div className="flex justify-between py-px">
          <dt className="text-ink-2">points</dt>
          <dd data-testid="points">
            {figures(before)} → {figures(after)}
          </dd>
        </div>
        {after < before && (
          <div className="flex justify-between py-px">
            <dt className="text-ink-2">events saved</dt>
            <dd data-testid="points-saved">
              {figures(before - after)} of {figures(before)}
            </dd>
          </div>
        )}
        {largestError > 0 && (
          <div className="flex justify-between py-px">
            <dt className="text-ink-2">largest error</dt>
            <dd data-testid="largest-error">
              {largestError.toFixed(2)} {unit}
            </dd>
          </div>
        )}
      </dl>
    </section>
  );
}
