import { lastAtOrBefore } from '@ordle/core';
import type { Gesture } from '@/surface';
import { tabAt, tabsOf, wordsOfTab, type MarkerTab, type SeenMarker } from '../markers';
import { barAtX, tickOfX, xOfTick, type TimeWindow } from './barsGeometry';

/** Pixels before a press counts as a drag. */
const DRAG = 4;

export interface BarsRulerEvents {
  onLocate(tick: number): void;
  onLoop(from: number, to: number): void;
  /** A marker was dragged to a tick. */
  onMarker(id: string, tick: number): void;
  /** The section a marker begins is meant. */
  onSection(id: string): void;
}

interface RulerTarget extends BarsRulerEvents {
  window(): TimeWindow;
  /** The starts of the bars in ticks, and the end of the last. */
  lines(): Float64Array;
  markers(): readonly SeenMarker[];
  /** A marker is being dragged to a tick; null when it no longer is. */
  showMarker(dragged: { id: string; tick: number } | null): void;
}

/** The words in a marker's tab over these bars. */
export function wordsOnBars(marker: SeenMarker, lines: Float64Array): string {
  const bar = lastAtOrBefore(lines, marker.tick + 0.5);
  const isOnLine = bar >= 0 && bar < lines.length - 1 && marker.tick - lines[bar] < 1;
  return wordsOfTab(marker, isOnLine ? bar + 1 : null);
}

export const tabsOnBars = (
  markers: readonly SeenMarker[],
  window: TimeWindow,
  lines: Float64Array,
): MarkerTab[] =>
  tabsOf(
    markers,
    (tick) => xOfTick(tick, window),
    (marker) => wordsOnBars(marker, lines),
  );

const markerAt = (target: RulerTarget, x: number) =>
  tabAt(tabsOnBars(target.markers(), target.window(), target.lines()), x)?.marker;

/**
 * A press on a ruler of bars: a click puts the play line there, a drag loops the bars it goes over, with Alt it moves
 * a marker.
 */
export function beginBarsRuler(target: RulerTarget, x: number, { altKey }: { altKey: boolean }): Gesture {
  const marker = altKey ? markerAt(target, x) : undefined;
  if (marker) return beginMarker(target, marker);
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

/** A marker goes from bar line to bar line, with Shift freely. */
function beginMarker(target: RulerTarget, marker: SeenMarker): Gesture {
  let tick = marker.tick;
  return {
    cursor: 'grabbing',
    scrolls: true,
    move(x, _, { shiftKey }) {
      const lines = target.lines();
      const free = Math.max(0, Math.round(tickOfX(x, target.window())));
      const bar = barAtX(x, target.window(), lines);
      tick = shiftKey ? free : free - lines[bar] < lines[bar + 1] - free ? lines[bar] : lines[bar + 1];
      target.showMarker({ id: marker.id, tick });
    },
    end() {
      target.showMarker(null);
      if (tick !== marker.tick) target.onMarker(marker.id, tick);
    },
    abandon: () => target.showMarker(null),
  };
}

/** A double click on a marker means the section it begins. */
export function doubleClickBarsRuler(target: RulerTarget, x: number): void {
  const marker = markerAt(target, x);
  if (marker) target.onSection(marker.id);
}
