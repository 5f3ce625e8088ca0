import {
  bentPlace,
  hullOf,
  laneName,
  lineOf,
  reshapedLine,
  scalePoints,
  withEnd,
  type DrawnLine,
  type LanePlace,
} from '@ordle/core';
import { reachOf, type Gesture } from '@/surface';
import {
  DRAG,
  handOf,
  placesOf,
  pointsInWords,
  showPlaces,
  snappedTick,
  type CurveGestureTarget,
} from './curveGestures';
import { yOfValue } from './laneGeometry';

/** Pixels around a handle that take hold of it. */
const HANDLE = 8;
/** Places a bent line is shown with while it is bent. */
const SHOWN_PLACES = 48;

/** What a line is taken hold of by: the place half-way bends it, an end takes it elsewhere. */
export type LineHandle = 'through' | 'from' | 'to';
export const LINE_HANDLES: readonly LineHandle[] = ['through', 'from', 'to'];
/** Pixels from end to end that a line has to be long, so that its handles can be told apart. */
export const LEAST_HANDLED = 24;

const distance = (target: CurveGestureTarget, { at, value }: LanePlace, x: number, y: number) =>
  Math.hypot(target.xOf(at) - x, yOfValue(target.view(), value, target.height()) - y);

/**
 * The handle of a line under a place; the lines drawn last come first, and of one the place half-way. Ends are handles
 * for selecting: where one draws, the next line may begin there. With several points selected, an end is one of the
 * points to be moved.
 */
export function lineHandleAt(
  target: CurveGestureTarget,
  lines: readonly DrawnLine[],
  x: number,
  y: number,
  selects: boolean,
): { line: DrawnLine; handle: LineHandle } | null {
  const mayBeEnd = selects && target.selected().size < 2;
  for (const line of [...lines].reverse()) {
    if (Math.abs(target.xOf(line.to.at) - target.xOf(line.from.at)) < LEAST_HANDLED) continue;
    const away = (handle: LineHandle) => distance(target, placeOf(line, handle), x, y);
    const [nearest] = LINE_HANDLES.filter((each) => each === 'through' || mayBeEnd).toSorted(
      (a, b) => away(a) - away(b),
    );
    if (away(nearest) <= reachOf(HANDLE)) return { line, handle: nearest };
  }
  return null;
}

/** Where a handle lies: the one half-way on the line itself. */
export const placeOf = (line: DrawnLine, handle: LineHandle): LanePlace =>
  handle === 'through' ? bentPlace(line.from, line.to, line.through, 0.5) : line[handle];

/** Shapes a line by one of its handles; let go without a move it was a click. An end never passes the other. */
export function beginReshape(
  target: CurveGestureTarget,
  line: DrawnLine,
  handle: LineHandle,
  onClick: () => void = () => undefined,
): Gesture {
  const hand = handOf(target.view());
  const label = `${handle === 'through' ? 'Bend' : 'Move the end of'} a line in ${laneName(hand.lane)}`;
  let next = line;
  const made = () => reshapedLine(hand, line, next, target.timeline());
  return {
    move(toX, toY, event) {
      const place = target.placeAt(toX, toY);
      if (handle === 'through') {
        next = lineOf(line.from, line.to, {
          at: Math.min(line.to.at, Math.max(line.from.at, place.at)),
          value: place.value,
        });
      } else {
        const at = snappedTick(target, place.at, event.altKey);
        next = withEnd(line, handle, {
          at: handle === 'from' ? Math.min(at, line.to.at - 1) : Math.max(at, line.from.at + 1),
          value: place.value,
        });
      }
      const { from, to, through } = next;
      const places = Array.from({ length: SHOWN_PLACES + 1 }, (_, at) =>
        bentPlace(from, to, through, at / SHOWN_PLACES),
      );
      target.preview(places, null);
      target.live(label, () => [made()]);
    },
    end() {
      target.preview(null, null);
      if (next === line) onClick();
      else target.done(label, [made()]);
    },
  };
}

/** The box around selected points, by ticks and values. */
export interface SelectionBox {
  from: number;
  to: number;
  low: number;
  high: number;
}

/** The box around two selected points or more; null for fewer, and for those that are all one place. */
export function selectionBox(target: Pick<CurveGestureTarget, 'view' | 'selected'>): SelectionBox | null {
  const rows = target.selected();
  if (rows.size < 2) return null;
  const { points } = target.view();
  const [from, to] = hullOf({ points }, rows);
  let [low, high] = [Infinity, -Infinity];
  for (const row of rows) {
    low = Math.min(low, points.value[row]);
    high = Math.max(high, points.value[row]);
  }
  return from === to && low === high ? null : { from, to, low, high };
}

/** The corners of a box on the canvas, a little outside of it. */
export function cornersOf(
  box: SelectionBox,
  xOf: (tick: number) => number,
  yOf: (value: number) => number,
): { x: number; y: number; at: number; value: number }[] {
  const OUTSIDE = 6;
  return [box.from, box.to].flatMap((at) =>
    [box.low, box.high].map((value) => ({
      at,
      value,
      x: xOf(at) + (at === box.from ? -OUTSIDE : OUTSIDE),
      y: yOf(value) + (value === box.low ? OUTSIDE : -OUTSIDE),
    })),
  );
}

/** The corner of the box around the selected points that is under a place; null when none is. */
export function cornerAt(
  target: CurveGestureTarget,
  box: SelectionBox | null,
  x: number,
  y: number,
): LanePlace | null {
  if (!box) return null;
  const yOf = (value: number) => yOfValue(target.view(), value, target.height());
  const corner = cornersOf(box, target.xOf, yOf).find(
    (each) => Math.hypot(each.x - x, each.y - y) <= reachOf(HANDLE),
  );
  return corner ? { at: corner.at, value: corner.value } : null;
}

/**
 * Scales the selected points by a corner of the box around them; the corner across stays. With Shift only their
 * values, so that their times are as they were.
 */
export function beginScale(
  target: CurveGestureTarget,
  box: SelectionBox,
  corner: LanePlace,
  x: number,
  y: number,
): Gesture {
  const hand = handOf(target.view());
  const rows = new Set(target.selected());
  const places = placesOf(hand, rows);
  const anchor = {
    at: corner.at === box.from ? box.to : box.from,
    value: corner.value === box.low ? box.high : box.low,
  };
  const pressed = target.placeAt(x, y);
  const label = `Scale ${pointsInWords(rows.size)} in ${laneName(hand.lane)}`;
  let [time, value] = [1, 1];
  const scaled = () =>
    places.map((place) => ({
      at: anchor.at + (place.at - anchor.at) * time,
      value: anchor.value + (place.value - anchor.value) * value,
    }));
  const made = () => scalePoints(hand, rows, anchor, time, value);
  return {
    move(toX, toY, event) {
      const place = target.placeAt(toX, toY);
      const to = snappedTick(target, corner.at + place.at - pressed.at, event.altKey);
      // The corner across is never passed, so that points keep their order.
      const share = (to - anchor.at) / (corner.at - anchor.at);
      const sideways = !event.shiftKey && corner.at !== anchor.at && Math.abs(toX - x) >= DRAG;
      time = sideways ? Math.max(0.01, share) : 1;
      const across = corner.value - anchor.value;
      value =
        across === 0 || Math.abs(toY - y) < DRAG
          ? 1
          : (corner.value + place.value - pressed.value - anchor.value) / across;
      showPlaces(target, scaled());
      target.live(label, () => [made()]);
    },
    end() {
      target.preview(null, null);
      if (time !== 1 || value !== 1) target.done(label, [made()], scaled());
    },
  };
}
