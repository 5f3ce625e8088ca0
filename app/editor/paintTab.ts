import type { Colours } from './colours';
import type { MarkerTab } from './markers';

/** A marker on a ruler: a tab with its name, standing on the line it marks. */
export function paintTab(
  context: CanvasRenderingContext2D,
  { left, right }: MarkerTab,
  words: string,
  { top, bottom, colours }: { top: number; bottom: number; colours: Colours },
) {
  const x = Math.round(left);
  const width = Math.max(3, Math.round(right) - x);
  context.fillStyle = colours.well;
  context.fillRect(x, top, width, bottom - top);
  context.fillStyle = colours.ink;
  context.fillRect(x, top, 2, bottom - top);
  if (width < 16) return;
  context.save();
  context.beginPath();
  context.rect(x, top, width - 2, bottom - top);
  context.clip();
  context.font = `600 ${colours.letters}`;
  context.textBaseline = 'middle';
  context.textAlign = 'left';
  context.fillText(words, x + 6, (top + bottom) / 2 + 0.5);
  context.restore();
}
