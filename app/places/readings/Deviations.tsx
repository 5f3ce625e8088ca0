import { ReferenceLine } from 'recharts';
import { BINS, BIN_MS, type PartReadings } from '@/engine/readingsView';
import { BeforeAfterBars } from '@/panels/BeforeAfterBars';

/** How many notes lie how far off the lines: as played in outline, as cleaned filled. Early is left. */
export default function Deviations({ reading, ink }: { reading: PartReadings; ink: number }) {
  const bins = Array.from(reading.played.bins, (before, bin) => ({
    at: (bin - (BINS - 1) / 2) * BIN_MS,
    before,
    after: reading.cleaned.bins[bin],
  }));
  return (
    <BeforeAfterBars width={210} height={52} bins={bins} ink={ink}>
      <ReferenceLine x={0} stroke="var(--ink-3)" strokeDasharray="2 2" />
    </BeforeAfterBars>
  );
}
