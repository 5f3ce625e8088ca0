import type { ChartBin } from '../analysis';
import { escaped } from './page';
import { roundMarks } from './roundMarks';

const [WIDTH, HEIGHT] = [220, 60];
/** Room for the figures at the left, and under and over the drawing. */
const [LEFT, BELOW, ABOVE] = [34, 14, 6];

/** A chart as it is reported: its bins, and under which of them stands what. */
export interface ReportedChart {
  caption: string;
  bins: readonly ChartBin[];
  /** Numbers of bins with what stands under them. */
  marks: readonly { bin: number; mark: string }[];
  /** Its values are counts. */
  isCounted: boolean;
}

/**
 * A chart as a small drawing with its caption: before in outline, after filled, over one scale with round marks and 0.
 */
export function drawnChart({ caption, bins, marks, isCounted }: ReportedChart): string {
  const scale = roundMarks(
    bins.flatMap(({ before, after }) => [before.value, after.value]),
    isCounted,
  );
  const [low, high] = [scale[0], scale[scale.length - 1]];
  const y = (value: number) => ABOVE + (high === low ? HEIGHT : ((high - value) / (high - low)) * HEIGHT);
  const wide = WIDTH / Math.max(1, bins.length);
  const bar = (value: number | null, at: number, look: string) => {
    if (value === null || value === 0) return '';
    const [top, bottom] = [y(Math.max(0, value)), y(Math.min(0, value))];
    return `<rect x="${(LEFT + at * wide).toFixed(1)}" y="${top.toFixed(1)}" width="${Math.max(0.5, wide - 0.5).toFixed(1)}" height="${(bottom - top).toFixed(1)}" ${look}/>`;
  };
  const drawn = bins
    .map(
      ({ before, after }, at) =>
        bar(after.value, at, 'fill="#2f4487"') + bar(before.value, at, 'fill="none" stroke="#7d7261"'),
    )
    .join('');
  const words = (x: number, at: number, text: string, anchor: string) =>
    `<text x="${x.toFixed(1)}" y="${at.toFixed(1)}" text-anchor="${anchor}" font-size="10" fill="#5f5648">${escaped(text)}</text>`;
  const told = [...new Set([low, 0, high])].map((value) =>
    words(LEFT - 4, y(value) + 3, String(value).replace('-', '\u2212'), 'end'),
  );
  const under = marks.map(({ bin, mark }) =>
    words(LEFT + (bin + 0.5) * wide, ABOVE + HEIGHT + 12, mark, 'middle'),
  );
  const zero = y(0).toFixed(1);
  return `<figure><svg width="${LEFT + WIDTH + 8}" height="${ABOVE + HEIGHT + BELOW}" role="img" aria-label="${escaped(caption)}">${drawn}<line x1="${LEFT}" x2="${LEFT + WIDTH}" y1="${zero}" y2="${zero}" stroke="#7d7261"/>${told.join('')}${under.join('')}</svg><figcaption>${escaped(caption)}</figcaption></figure>`;
}
