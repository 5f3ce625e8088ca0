import type { Gesture } from '@/surface';
import { barAtX, tickOfX, type TimeWindow } from './takesGeometry';

/** Pixels before a press counts as a drag. */
const DRAG = 4;

interface RulerTarget {
  window(): TimeWindow;
  /** The starts of the bars in ticks, and the end of the last. */
  lines(): Float64Array;
  onLocate(tick: number): void;
  onLoop(from: number, to: number): void;
}

/** A press on a ruler of bars: a click puts the play line there, a drag loops the bars it goes over. */
export function beginBarsRuler(target: RulerTarget, x: number): Gesture {
  let isDrag = false;
  return {
    move(toX) {
      isDrag ||= Math.abs(toX - x) > DRAG;
      if (!isDrag) return;
      const [window, lines] = [target.window(), target.lines()];
      const [a, b] = [barAtX(x, window, lines), barAtX(toX, window, lines)];
      target.onLoop(lines[Math.min(a, b)], lines[Math.max(a, b) + 1]);
    },
    end() {
      if (!isDrag) target.onLocate(Math.max(0, tickOfX(x, target.window())));
    },
  };
}

/** A window that shows `factor` times as much time; what lies at x stays there. */
export function zoomedAt<W extends TimeWindow>(window: W, x: number, factor: number): W {
  const ticksPerPixel = window.ticksPerPixel * factor;
  return { ...window, ticksPerPixel, tick: tickOfX(x, window) - x * ticksPerPixel };
}
