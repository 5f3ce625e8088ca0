import { Bar, BarChart, ReferenceLine, XAxis, YAxis } from 'recharts';
import { BINS, BIN_MS, type PartReadings } from '@/engine/readingsView';

const [WIDTH, HEIGHT] = [210, 52];

/** How many notes lie how far off the lines: as played in outline, as cleaned filled. Early is left. */
export default function Deviations({ reading, ink }: { reading: PartReadings; ink: number }) {
  const bins = Array.from(reading.played.bins, (before, bin) => ({
    ms: (bin - (BINS - 1) / 2) * BIN_MS,
    before,
    after: reading.cleaned.bins[bin],
  }));
  return (
    <BarChart
      width={WIDTH}
      height={HEIGHT}
      data={bins}
      barGap="-100%"
      barCategoryGap={0}
      accessibilityLayer={false}
      margin={{ top: 2, right: 0, bottom: 0, left: 0 }}
    >
      <XAxis dataKey="ms" hide />
      <YAxis hide domain={[0, 'dataMax']} />
      <ReferenceLine x={0} stroke="var(--ink-3)" strokeDasharray="2 2" />
      <Bar dataKey="after" fill={`var(--ink-part-${ink + 1})`} isAnimationActive={false} />
      <Bar dataKey="before" fill="none" stroke="var(--ink-3)" isAnimationActive={false} />
    </BarChart>
  );
}
