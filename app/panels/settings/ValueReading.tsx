import type { ValueReading } from '@ordle/core';
import { lazy, Suspense } from 'react';
import { figures } from '@/words/counts';

/** The charts are a large package: they come when the first of them is shown. */
const ValueHistogram = lazy(() => import('./ValueHistogram'));

/** Velocities or lengths before and after a step, as a small picture and in figures. */
export function ValueReadingSection({ reading, ink }: { reading: ValueReading | null; ink: number }) {
  if (!reading) return null;
  const value = (number: number) => (reading.unit === 'ms' ? `${number.toFixed(0)} ms` : number.toFixed(0));
  return (
    <section aria-label="Effect" className="flex shrink-0 flex-col gap-1">
      <Suspense fallback={<div className="h-16" />}>
        <ValueHistogram reading={reading} ink={ink} />
      </Suspense>
      <dl>
        <div className="flex justify-between py-px">
          <dt className="text-ink-2">notes changed</dt>
          <dd data-testid="notes-changed">
            {figures(reading.changed)} of {figures(reading.touched)}
          </dd>
        </div>
        <div className="flex justify-between py-px">
          <dt className="text-ink-2">{reading.unit === 'ms' ? 'typical length' : 'typical velocity'}</dt>
          <dd data-testid="typical-value">
            {value(reading.medianBefore)} → {value(reading.medianAfter)}
          </dd>
        </div>
      </dl>
    </section>
  );
}
