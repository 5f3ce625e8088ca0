import type { ValueReading } from '@ordle/core';
import { BeforeAfterBars } from '../BeforeAfterBars';

const WIDTH = 240;
const HEIGHT = 64;

/** Counts before (outline) and after (filled) over one scale. */
export default function ValueHistogram({ reading, ink }: { reading: ValueReading; ink: number }) {
  const last = reading.before.length - 1;
  const bins = Array.from(reading.before, (before, bin) => ({
    at: bin * reading.width,
    before,
    after: reading.after[bin],
  }));
  const unit = reading.unit === 'ms' ? ' ms' : '';
  return (
    <figure
      role="img"
      aria-label={`${reading.unit === 'ms' ? 'Lengths' : 'Velocities'} before and after: typically ${reading.medianBefore.toFixed(0)}${unit}, then ${reading.medianAfter.toFixed(0)}${unit}`}
    >
      <BeforeAfterBars width={WIDTH} height={HEIGHT} bins={bins} ink={ink} />
      <figcaption className="flex justify-between text-[0.7rem] text-ink-2">
        <span>0</span>
        <span>
          {Math.round((last / 2) * reading.width)}
          {unit}
        </span>
        <span>
          {Math.round(last * reading.width)}
          {unit}
          {reading.unit === 'ms' && ' or more'}
        </span>
      </figcaption>
    </figure>
  );
}
