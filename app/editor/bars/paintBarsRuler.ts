import { paintTab } from '../paintTab';
import { RULER, barAtX, xOfTick } from './barsGeometry';
import { tabsOnBars, wordsOnBars } from './barsRuler';
import type { BarsContent, BarsLook } from './barsScene';

/** Bar numbers, the loop, and the markers. */
export function paintBarsRuler(context: CanvasRenderingContext2D, scene: BarsContent & BarsLook) {
  const { layout, window, colours, lines, loop, markers } = scene;
  context.fillStyle = colours.sheet;
  context.fillRect(0, 0, layout.width, RULER);
  if (loop.on && loop.to > loop.from) {
    const [left, right] = [xOfTick(loop.from, window), xOfTick(loop.to, window)];
    context.fillStyle = colours.well;
    context.fillRect(left, 0, right - left, RULER - 4);
    context.fillStyle = colours.ink;
    context.fillRect(left, 0, right - left, 3);
    for (const edge of [left, right - 2]) context.fillRect(edge, 0, 2, RULER - 4);
  }
  const tabs = tabsOnBars(markers, window, lines);
  const [first, last] = [barAtX(0, window, lines), barAtX(layout.width, window, lines) + 1];
  context.textBaseline = 'middle';
  context.textAlign = 'left';
  let free = -Infinity;
  for (let bar = first; bar < last; bar++) {
    const x = xOfTick(lines[bar], window);
    if (x < free) continue;
    context.fillStyle = colours.ruleStrong;
    context.fillRect(Math.round(x), RULER - 8, 1, 8);
    context.font = `600 ${colours.letters}`;
    context.fillStyle = colours.ink;
    const words = String(bar + 1);
    const right = x + 12 + context.measureText(words).width;
    if (tabs.some((tab) => tab.left < right - 4 && tab.right > x)) continue;
    context.fillText(words, x + 4, 11);
    free = right;
  }
  for (const tab of tabs)
    if (tab.right > 0 && tab.left < layout.width)
      paintTab(context, tab, wordsOnBars(tab.marker, lines), { top: 2, bottom: RULER - 3, colours });
  context.fillStyle = colours.ruleStrong;
  context.fillRect(0, RULER - 1, layout.width, 1);
}
