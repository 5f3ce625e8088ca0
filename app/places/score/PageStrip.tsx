import { useMemo } from 'react';
import type { PlayedScore } from '@/engine/protocol';
import { counted } from '@/words/counts';

/** Its height in pixels, and how late a bar of full height is, in ms. */
const [HEIGHT, REACH_MS] = [32, 120];
/** Units across a bar. */
const WIDE = 10;

interface PageStripProps {
  score: PlayedScore;
  /** Goes to a bar of the page, counted from 1. */
  onBar(bar: number): void;
}

/** The whole page in a strip: late upward and early downward in each bar, and a line over bars with faults. */
export function PageStrip({ score, onBar }: PageStripProps) {
  const bars = useMemo(() => readBars(score), [score]);
  const middle = HEIGHT / 2 + 2;
  const tall = (ms: number) => Math.min(middle - 5, (ms / REACH_MS) * (middle - 5));
  const path = (of: 'late' | 'early') =>
    bars
      .map((bar, at) => {
        const height = tall(bar[of]);
        return height < 0.3
          ? ''
          : `M${at * WIDE + 3} ${of === 'late' ? middle - height : middle}h${WIDE - 6}v${height}h${6 - WIDE}z`;
      })
      .join('');
  const faults = bars.map(({ faults: some }, at) =>
    some > 0 ? `M${at * WIDE + 3} 0h${WIDE - 6}v3h${6 - WIDE}z` : '',
  );
  const count = bars.filter(({ faults: some }) => some > 0).length;
  return (
    <svg
      role="img"
      aria-label={`${counted(bars.length, 'bar')}, ${count} with wrong, missing or extra notes`}
      viewBox={`0 0 ${bars.length * WIDE} ${HEIGHT}`}
      preserveAspectRatio="none"
      height={HEIGHT}
      className="w-full shrink-0 cursor-pointer border-b border-rule bg-ground print:hidden"
      data-testid="page-strip"
      onClick={({ clientX, currentTarget }) => {
        const { left, width } = currentTarget.getBoundingClientRect();
        onBar(Math.min(bars.length, 1 + Math.floor(((clientX - left) / width) * bars.length)));
      }}
    >
      <title>Late up, early down in each bar; a line over bars with wrong, missing or extra notes</title>
      <path d={`M0 ${middle}h${bars.length * WIDE}`} className="stroke-edge" strokeWidth={0.5} />
      <path d={path('late')} className="fill-late" />
      <path d={path('early')} className="fill-early" />
      <path d={faults.join('')} className="fill-accent" />
    </svg>
  );
}

function readBars({ marks, extras, barTicks }: PlayedScore) {
  const bars = barTicks.map(() => ({ late: 0, early: 0, faults: 0 }));
  for (const { is, lateMs, tick } of marks) {
    const bar = bars.at(barOfTick(barTicks, tick));
    if (!bar) continue;
    if (is !== 'right') bar.faults++;
    bar.late = Math.max(bar.late, lateMs);
    bar.early = Math.max(bar.early, -lateMs);
  }
  for (const { tick } of extras) {
    const bar = bars.at(barOfTick(barTicks, tick));
    if (bar) bar.faults++;
  }
  return bars;
}

/** The bar of the page that is played at a tick, by index; early strokes belong to the bar they mean. */
export function barOfTick(barTicks: readonly number[], tick: number): number {
  return Math.max(
    0,
    barTicks.findLastIndex((at) => at <= tick + EARLY_TICKS),
  );
}

/** A stroke this much before a bar line belongs to the bar behind it. */
const EARLY_TICKS = 40;
