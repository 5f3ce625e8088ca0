import type { ValueReading } from '@ordle/core';
import { Bar, BarChart, XAxis, YAxis } from 'recharts';

const WIDTH = 240;
const HEIGHT = 64;

/** Counts before (outline) and after (filled) over one scale. */
export default function ValueHistogram({ reading, ink }: { reading: ValueReading; ink: number }) {
  const last = reading.before.length - 1;
  const bins = Array.from(reading.before, (before, bin) => ({
    from: bin * reading.width,
    before,
    after: reading.after[bin],
  }));
  const unit = reading.unit === 'ms' ? ' ms' : '';
  return (
    <figure
      role="img"
      aria-label={`${reading.unit === 'ms' ? 'Lengths' : 'Velocities'} before and after: typically ${reading.medianBefore.toFixed(0)}${unit}, then ${reading.medianAfter.toFixed(0)}${unit}`}
    >
      <BarChart
        width={WIDTH}
        height={HEIGHT}
        data={bins}
        barGap="-100%"
        barCategoryGap={0}
        accessibilityLayer={false}
        margin={{ top: 2, right: 0, bottom: 0, left: 0 }}
      >
        <XAxis dataKey="from" hide />
        <YAxis hide domain={[0, 'dataMax']} />
        <Bar dataKey="after" fill={`var(--ink-part-${ink + 1})`} isAnimationActive={false} />
        <Bar dataKey="before" fill="none" stroke="var(--ink-3)" isAnimationActive={false} />
      </BarChart>
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
