import {
  deletePresses,
  drawPress,
  movePresses,
  pressesOf,
  trimPress,
  type LanePlace,
  type PedalSpan,
  type PressEdit,
} from '@ordle/core';
import { reachOf, type Gesture } from '@/surface';
import { REACH, boxGesture, handOf, snappedTick, type CurveGestureTarget } from './curveGestures';
import { pressesIn } from './laneGeometry';

/** The press under a place, and whether one of its ends is held. */
function pressAt(
  target: CurveGestureTarget,
  x: number,
): { press: PedalSpan; edge: 'start' | 'end' | null } | null {
  for (const press of pressesIn(target.view().points)) {
    const [left, right] = [target.xOf(press.start), target.xOf(press.end)];
    const reach = reachOf(REACH);
    if (x < left - reach || x > right + reach) continue;
    const within = Math.max(REACH, Math.min(reach, (right - left) / 4));
    const edge = x <= left + within ? 'start' : x >= right - within ? 'end' : null;
    return { press, edge };
  }
  return null;
}

/** All points of some presses: a press is selected whole. */
function rowsOf(presses: readonly PedalSpan[]): number[] {
  return presses.flatMap(({ first, stop }) => Array.from({ length: stop - first }, (_, at) => first + at));
}

const pressesInWords = (count: number): string => (count === 1 ? 'a press' : `${count} presses`);

const NOTHING: PressEdit = { edits: [], laid: [] };

/** A bar as a stroke: up, along and down. */
const outline = (start: number, end: number, depth: number): LanePlace[] => [
  { at: start, value: 0 },
  { at: start, value: depth },
  { at: end, value: depth },
  { at: end, value: 0 },
];

/**
 * On a press: selects it (Shift adds) and moves all that are selected, or trims the end that is held; on empty
 * ground, and with the drawing tool anywhere: a new press. With Shift on empty ground a box selects.
 */
export function beginPress(
  target: CurveGestureTarget,
  x: number,
  y: number,
  drawing: boolean,
  adding = false,
): Gesture {
  const hit = drawing ? null : pressAt(target, x);
  if (!hit && adding && !drawing)
    return boxGesture(target, x, y, [...target.selected()], (rows) =>
      rowsOf(pressesOf(handOf(target.view()), new Set(rows))),
    );
  if (!hit) return drawGesture(target, x, y);
  const { press, edge } = hit;
  if (!target.selected().has(press.first))
    target.select([...(adding ? target.selected() : []), ...rowsOf([press])]);
  return edge ? trimGesture(target, press, edge) : moveGesture(target, press, x);
}

function drawGesture(target: CurveGestureTarget, x: number, y: number): Gesture {
  const hand = handOf(target.view());
  const pressed = target.placeAt(x, y);
  const depth = Math.max(1, pressed.value);
  let made = NOTHING;
  return {
    move(toX, toY, event) {
      const at = snappedTick(target, target.placeAt(toX, toY).at, event.altKey);
      const from = snappedTick(target, pressed.at, event.altKey);
      const [start, end] = [Math.min(from, at), Math.max(from, at)];
      const { edits } = (made = start === end ? NOTHING : drawPress(hand, start, end, depth));
      target.preview(edits.length > 0 ? outline(start, end, depth) : null, null);
      if (edits.length > 0) target.live('Draw a press of the pedal', () => edits);
    },
    end() {
      target.preview(null, null);
      if (made.edits.length > 0) target.done('Draw a press of the pedal', made.edits, made.laid);
      else target.select([]);
    },
  };
}

function moveGesture(target: CurveGestureTarget, press: PedalSpan, x: number): Gesture {
  const hand = handOf(target.view());
  const presses = pressesOf(hand, target.selected());
  const pressed = target.placeAt(x, 0);
  const label = `Move ${pressesInWords(presses.length)} of the pedal`;
  let made = NOTHING;
  return {
    move(toX, toY, event) {
      const to = press.start + target.placeAt(toX, toY).at - pressed.at;
      const ticks = snappedTick(target, to, event.altKey) - press.start;
      const { edits } = (made = ticks === 0 ? NOTHING : movePresses(hand, presses, ticks));
      const end = press.end === Infinity ? press.start : press.end;
      target.preview(outline(press.start + ticks, end + ticks, press.depth), null);
      if (edits.length > 0) target.live(label, () => edits);
    },
    end() {
      target.preview(null, null);
      if (made.edits.length > 0) target.done(label, made.edits, made.laid);
    },
  };
}

function trimGesture(target: CurveGestureTarget, press: PedalSpan, edge: 'start' | 'end'): Gesture {
  const hand = handOf(target.view());
  let made = NOTHING;
  return {
    move(toX, toY, event) {
      const at = snappedTick(target, target.placeAt(toX, toY).at, event.altKey);
      const { edits, laid } = (made = trimPress(hand, press, edge, at));
      target.preview(outline(laid[0].at, laid[laid.length - 1].at, press.depth), null);
      target.live('Trim a press of the pedal', () => edits);
    },
    end() {
      target.preview(null, null);
      if (made.edits.length > 0) target.done('Trim a press of the pedal', made.edits, made.laid);
    },
  };
}

/** Takes away the presses a drag goes over. */
export function beginPressRub(target: CurveGestureTarget, x: number): Gesture {
  const gone = new Map<number, PedalSpan>();
  const rub = (at: number) => {
    const hit = pressAt(target, at);
    if (hit) gone.set(hit.press.first, hit.press);
    target.select(rowsOf([...gone.values()]));
  };
  rub(x);
  return {
    move: (toX) => rub(toX),
    end() {
      if (gone.size === 0) return;
      target.done(
        `Erase ${pressesInWords(gone.size)} of the pedal`,
        deletePresses(handOf(target.view()), [...gone.values()]),
      );
    },
  };
}
