import { CHART_WORDS } from '@ordle/core';
import type { ChartBin, ChartKind } from '@ordle/core';

/**
 * A chart as rows of figures: what each bin is from and to, what stands in it, and of how many notes, as played and
 * as cleaned.
 */
function rowsOf(kind: ChartKind, bins: readonly ChartBin[]): string[][] {
  const { along, of, digits } = CHART_WORDS[kind];
  const counted = kind === 'pedal' ? 'presses' : 'notes';
  const number = (value: number | null) => (value === null ? '' : String(Number(value.toFixed(digits + 2))));
  const edge = (value: number) => (Number.isFinite(value) ? String(Number(value.toFixed(3))) : '');
  return [
    [
      `${along}, from`,
      `${along}, to`,
      `${of}, as played`,
      `${of}, as cleaned`,
      ...(of === counted ? [] : [`${counted}, as played`, `${counted}, as cleaned`]),
    ],
    ...bins.map(({ from, to, before, after }) => [
      edge(from),
      edge(to),
      number(before.value),
      number(after.value),
      ...(of === counted ? [] : [String(before.notes), String(after.notes)]),
    ]),
  ];
}

const quoted = (cell: string) => (/[",\r\n]/.test(cell) ? `"${cell.replaceAll('"', '""')}"` : cell);

/** Comma-separated values (RFC 4180). */
export const csvRows = (rows: readonly (readonly string[])[]): string =>
  rows.map((row) => `${row.map(quoted).join(',')}\r\n`).join('');

/** A chart as such, with a header line. */
export const csvOf = (kind: ChartKind, bins: readonly ChartBin[]): string => csvRows(rowsOf(kind, bins));

/** Cells between tabs, as tables are pasted. */
export const cellsOf = (kind: ChartKind, bins: readonly ChartBin[]): string =>
  rowsOf(kind, bins)
    .map((row) => row.join('\t'))
    .join('\n');

/** What of its look a drawing has from the page and loses on its own. */
const OWN_LOOK = [
  'fill',
  'stroke',
  'stroke-width',
  'stroke-dasharray',
  'font-family',
  'font-size',
  'text-anchor',
  'opacity',
];

/** What of a drawing is seen by itself. */
const SEEN = new Set(['path', 'line', 'rect', 'text', 'circle']);

/** A drawing of the page as a file of its own: with its colours written out, a ground and its size. */
export function svgOf(drawn: SVGSVGElement): string {
  const copy = drawn.cloneNode(true) as SVGSVGElement;
  const [here, there] = [drawn.querySelectorAll('*'), copy.querySelectorAll('*')];
  here.forEach((element, index) => {
    there[index].removeAttribute('class');
    there[index].removeAttribute('style');
    if (!SEEN.has(element.tagName)) return;
    const style = getComputedStyle(element);
    for (const name of OWN_LOOK) {
      const value = style.getPropertyValue(name);
      if (value && value !== 'none' && value !== '1') there[index].setAttribute(name, value);
      else if (value && (name === 'fill' || name === 'stroke')) there[index].setAttribute(name, value);
    }
  });
  const { width, height } = drawn.getBoundingClientRect();
  copy.removeAttribute('style');
  copy.setAttribute('xmlns', 'http://www.w3.org/2000/svg');
  copy.setAttribute('width', String(width));
  copy.setAttribute('height', String(height));
  const ground = document.createElementNS('http://www.w3.org/2000/svg', 'rect');
  ground.setAttribute('width', '100%');
  ground.setAttribute('height', '100%');
  ground.setAttribute('fill', getComputedStyle(drawn).getPropertyValue('--sheet').trim() || '#ffffff');
  copy.prepend(ground);
  return new XMLSerializer().serializeToString(copy);
}

/** Twice the size on the page, so that it stays sharp on paper. */
const SCALE = 2;

/** The same as a picture of dots. */
export async function pngOf(drawn: SVGSVGElement): Promise<Blob> {
  const { width, height } = drawn.getBoundingClientRect();
  const image = new Image();
  const address = URL.createObjectURL(new Blob([svgOf(drawn)], { type: 'image/svg+xml' }));
  try {
    image.src = address;
    await image.decode();
  } finally {
    URL.revokeObjectURL(address);
  }
  const canvas = document.createElement('canvas');
  [canvas.width, canvas.height] = [width * SCALE, height * SCALE];
  canvas.getContext('2d')?.drawImage(image, 0, 0, canvas.width, canvas.height);
  return new Promise((resolve, reject) =>
    canvas.toBlob((blob) => {
      if (blob) resolve(blob);
      else reject(new Error('The browser could not make a picture of the chart.'));
    }, 'image/png'),
  );
}
