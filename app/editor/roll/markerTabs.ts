import { barAt, type MeterMap } from '@ordle/core';
import { tabsOf, wordsOfTab, type MarkerTab, type SeenMarker } from '../markers';
import { xOf, type Layout } from './geometry';
import type { Scene } from './scene';

/** The words of a marker over the bars of a meter; over seconds (null) its name alone. */
export function wordsOverRoll(marker: SeenMarker, meter: MeterMap | null): string {
  const bar = meter && barAt(meter, marker.tick);
  return wordsOfTab(marker, bar && marker.tick - bar.start < 1 ? bar.number : null);
}

/** The tabs of the markers on the ruler over the roll. */
export const tabsOverRoll = (
  markers: readonly SeenMarker[],
  window: Scene['window'],
  layout: Layout,
  meter: MeterMap | null,
): MarkerTab[] =>
  tabsOf(
    markers,
    (tick) => xOf(tick, window, layout),
    (marker) => wordsOverRoll(marker, meter),
  );
