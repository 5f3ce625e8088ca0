import type { ValueReading } from '@ordle/core';
import { BeforeAfterBars } from '../BeforeAfterBars';

const WIDTH = 240;
const HEIGHT = 64;

/** Counts before (outline) and after (filled) over one scale. */
export default function ValueHistogram({ reading, ink }: { reading: ValueReading; ink: number }) {
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
      <figcaption aria-hidden="true" className="relative h-4.5 text-quiet text-ink-2">
        {ticksOf(reading).map(({ value, at }, index, { length }) => (
          <span
            key={value}
            className={`absolute ${index === 0 ? '' : index === length - 1 ? '-translate-x-full' : '-translate-x-1/2'}`}
            style={{ left: `${at * 100}%` }}
          >
            {value}
            {index === length - 1 && unit}
          </span>
        ))}
      </figcaption>
    </figure>
  );
}

/**
 * Round values to read the bars by, each with its place from 0 to 1: of velocities every 32, of lengths every ten
 * bars.
 */
function ticksOf({ unit, width, before }: ValueReading): { value: number; at: number }[] {
  const whole = before.length * width;
  const values = unit === 'velocity' ? [0, 32, 64, 96, 127] : [0, 10 * width, 20 * width, 30 * width];
  return values.map((value) => ({ value, at: Math.min(1, value / whole) }));
}
