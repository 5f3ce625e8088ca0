import type { ReactNode } from 'react';
import { Bar, BarChart, XAxis, YAxis } from 'recharts';

interface BeforeAfterBarsProps {
  width: number;
  height: number;
  bins: { at: number; before: number; after: number }[];
  ink: number;
  /** Lines drawn behind the bars. */
  children?: ReactNode;
}

/** Counts before (outline) and after (filled) over one scale. */
export function BeforeAfterBars({ width, height, bins, ink, children }: BeforeAfterBarsProps) {
  return (
    <BarChart
      width={width}
      height={height}
      data={bins}
      barGap="-100%"
      barCategoryGap={0}
      accessibilityLayer={false}
      margin={{ top: 2, right: 0, bottom: 0, left: 0 }}
    >
      <XAxis dataKey="at" hide />
      <YAxis hide domain={[0, 'dataMax']} />
      {children}
      <Bar dataKey="after" fill={`var(--ink-part-${ink + 1})`} isAnimationActive={false} />
      <Bar dataKey="before" fill="none" stroke="var(--ink-3)" isAnimationActive={false} />
    </BarChart>
  );
}
