import { reachOf } from '@/surface';
import { barAt, type MeterMap } from '@ordle/core';
import type { EditorWindow } from '@/state/viewSlice';
import { xOf, type Layout } from './geometry';

/** The stretch of time a step touches, for the strip under the ruler. Ticks; `to` is infinite for the whole part. */
export interface WhereSpan {
  stepId: string;
  /** The step's name, written beside its line. */
  name: string;
  from: number;
  to: number;
  /** Whether it is the current step, whose where can be dragged. */
  isCurrent: boolean;
  /** A step that is switched off keeps its row, so that the others stay where they are. */
  isOff?: boolean;
}

/** A row has room for a name. */
const ROW = 11;
/** Rows of full height; more of them share the room of these. */
const FULL_ROWS = 3;
const MARGIN = 3;
/** Rows at least this high bear names. */
export const NAMED_ROW = 10;

/** Whether a span is the whole part's, which is the ordinary case. */
export const isWhole = ({ from, to }: WhereSpan): boolean => from <= 0 && to === Infinity;

/**
 * The row each span gets: all that are the whole part's share the first, since nothing has to be told between them;
 * each other the first row where it lies over no other, in the order of the steps, so that none hides another.
 */
export function rowsOfSpans(spans: readonly WhereSpan[]): number[] {
  const first = spans.some(isWhole) ? 1 : 0;
  const rows: WhereSpan[][] = [];
  return spans.map((span) => {
    if (isWhole(span)) return 0;
    let row = rows.findIndex((taken) =>
      taken.every((other) => span.to <= other.from || span.from >= other.to),
    );
    if (row < 0) row = rows.push([]) - 1;
    rows[row].push(span);
    return first + row;
  });
}

/** Height of the strip for some spans; 0 when there are none. */
export function stripHeight(spans: readonly WhereSpan[]): number {
  const rows = Math.max(0, ...rowsOfSpans(spans).map((row) => row + 1));
  return rows === 0 ? 0 : Math.min(rows, FULL_ROWS) * ROW + 2 * MARGIN;
}

/** Where each span is drawn, in CSS pixels. */
export interface PlacedSpan {
  span: WhereSpan;
  left: number;
  right: number;
  top: number;
  height: number;
}

export function placeSpans(spans: readonly WhereSpan[], window: EditorWindow, layout: Layout): PlacedSpan[] {
  const rows = rowsOfSpans(spans);
  const count = Math.max(1, ...rows.map((row) => row + 1));
  const height = (layout.spans - 2 * MARGIN) / count;
  return spans.map((span, index) => ({
    span,
    left: Math.max(layout.gutter, xOf(span.from, window, layout)),
    right: Math.min(layout.width, span.to === Infinity ? layout.width : xOf(span.to, window, layout)),
    top: layout.overview + layout.ruler + MARGIN + rows[index] * height,
    height,
  }));
}

/** Pixels around the ends of a span that take hold of the end. */
const EDGE = 5;

/** What lies at a place of the strip. */
export function spanAt(
  placed: readonly PlacedSpan[],
  x: number,
  y: number,
): { span: WhereSpan; edge: 'from' | 'to' | null } | null {
  // Of those that share a row the current one is taken hold of.
  const inOrder = placed.toSorted((one, other) => +other.span.isCurrent - +one.span.isCurrent);
  for (const { span, left, right, top, height } of inOrder) {
    const reach = reachOf(EDGE);
    if (y < top || y >= top + height || x < left - reach || x > right + reach) continue;
    const within = Math.max(EDGE, Math.min(reach, (right - left) / 4));
    const edge =
      span.to === Infinity ? null : x <= left + within ? 'from' : x >= right - within ? 'to' : null;
    return { span, edge };
  }
  return null;
}

/** The bars a stretch of ticks lies in, as a where counts them: up to, not including, the second. */
export function barsBetween(meter: MeterMap, a: number, b: number): [number, number] {
  const [low, high] = a < b ? [a, b] : [b, a];
  const first = barAt(meter, Math.max(0, low));
  const last = barAt(meter, Math.max(0, high));
  return [first.number, Math.max(first.number + 1, high > last.start ? last.number + 1 : last.number)];
}
