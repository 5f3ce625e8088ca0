import type { ChartBin } from '../analysis';
import { escaped } from './page';

const [WIDTH, HEIGHT] = [220, 60];

/** A chart as a small drawing with its caption: before in outline, after filled, over one scale that holds 0. */
export function drawnChart(caption: string, bins: readonly ChartBin[]): string {
  const values = bins.flatMap(({ before, after }) => [before.value ?? 0, after.value ?? 0]);
  const [low, high] = [Math.min(0, ...values), Math.max(0, ...values)];
  const y = (value: number) => (high === low ? HEIGHT : ((high - value) / (high - low)) * HEIGHT);
  const wide = WIDTH / Math.max(1, bins.length);
  const bar = (value: number | null, at: number, look: string) => {
    if (value === null || value === 0) return '';
    const [top, bottom] = [y(Math.max(0, value)), y(Math.min(0, value))];
    return `<rect x="${(at * wide).toFixed(1)}" y="${top.toFixed(1)}" width="${Math.max(0.5, wide - 0.5).toFixed(1)}" height="${(bottom - top).toFixed(1)}" ${look}/>`;
  };
  const drawn = bins
    .map(
      ({ before, after }, at) =>
        bar(after.value, at, 'fill="#2f4487"') + bar(before.value, at, 'fill="none" stroke="#7d7261"'),
    )
    .join('');
  const zero = y(0).toFixed(1);
  return `<figure><svg width="${WIDTH}" height="${HEIGHT}" role="img" aria-label="${escaped(caption)}">${drawn}<line x1="0" x2="${WIDTH}" y1="${zero}" y2="${zero}" stroke="#7d7261"/></svg><figcaption>${escaped(caption)}</figcaption></figure>`;
}
