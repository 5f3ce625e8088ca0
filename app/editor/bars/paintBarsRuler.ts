import type { Colours } from '../colours';
import { RULER, barAtX, xOfTick, type TimeWindow } from './takesGeometry';

/** What a ruler of bars shows. */
export interface RulerScene {
  layout: { width: number };
  window: TimeWindow;
  colours: Colours;
  /** The starts of the bars in ticks, and the end of the last. */
  lines: Float64Array;
  loop: { on: boolean; from: number; to: number };
}

/** Bar numbers and the loop. */
export function paintBarsRuler(context: CanvasRenderingContext2D, scene: RulerScene) {
  const { layout, window, colours, lines, loop } = scene;
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
  const [first, last] = [barAtX(0, window, lines), barAtX(layout.width, window, lines) + 1];
  context.textBaseline = 'middle';
  context.textAlign = 'left';
  let free = -Infinity;
  for (let bar = first; bar < last; bar++) {
    const x = xOfTick(lines[bar], window);
    if (x < free) continue;
    context.fillStyle = colours.ruleStrong;
    context.fillRect(Math.round(x), RULER - 8, 1, 8);
    context.font = `600 12px ${colours.font}`;
    context.fillStyle = colours.ink;
    const words = String(bar + 1);
    context.fillText(words, x + 4, 11);
    free = x + 12 + context.measureText(words).width;
  }
  context.fillStyle = colours.ruleStrong;
  context.fillRect(0, RULER - 1, layout.width, 1);
}
