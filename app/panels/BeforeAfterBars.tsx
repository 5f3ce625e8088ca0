import { Bar, BarChart, XAxis, YAxis } from 'recharts';

interface BeforeAfterBarsProps {
  width: number;
  height: number;
  bins: { at: number; before: number; after: number }[];
  ink: number;
}

/** Counts before (outline) and after (filled) over one scale. */
export function BeforeAfterBars({ width, height, bins, ink }: BeforeAfterBarsProps) {
  return (
    <BarChart
      width={width}
      height={height}
      data={bins}
      barCategoryGap={0}
      accessibilityLayer={false}
      margin={{ top: 2, right: 0, bottom: 0, left: 0 }}
    >
      <XAxis dataKey="at" hide />
      <YAxis hide domain={[0, 'dataMax']} />
      <Bar dataKey="after" fill={`var(--ink-part-${ink + 1})`} isAnimationActive={false} />
      {/* An axis of its own, or the two would stand side by side. */}
      <XAxis xAxisId="before" dataKey="at" hide />
      <Bar xAxisId="before" dataKey="before" fill="none" stroke="var(--ink-3)" isAnimationActive={false} />
    </BarChart>
  );
}
