import { CHART_WORDS, type ChartKind } from '@ordle/core';

/** Room around what is drawn, and for the axis at its left; pixels. */
export const MARGIN = { top: 12, right: 16, bottom: 20, left: 8 };
export const AXIS = 56;

/** The bin at a place of a large chart, by pixels from its left; null beside them all. */
export function binUnder(kind: ChartKind, count: number, x: number, width: number): number | null {
  const [left, right] = [MARGIN.left + AXIS, width - MARGIN.right];
  if (count === 0 || x < left - 8 || x > right + 8) return null;
  const share = (x - left) / Math.max(1, right - left);
  // The points of a line stand at its ends, bars in the middle of their share.
  const at = CHART_WORDS[kind].look === 'line' ? Math.round(share * (count - 1)) : Math.floor(share * count);
  return Math.min(count - 1, Math.max(0, at));
}
