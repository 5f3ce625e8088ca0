import { type MeterMap } from '@ordle/core';
import type { EditorWindow } from '@/state/viewSlice';
import { pitchAt, tickAt, type Layout } from './geometry';
import type { Gesture } from '@/surface';
import { barsBetween, placeSpans, spanAt, type WhereSpan } from './whereSpans';

/** A change of the where of the current step. Bars as a where counts them; pitches inclusive. */
export interface WhereChange {
  bars?: [number, number];
  pitch?: [number, number];
}

/** What gestures on the where of a step need and may do. */
export interface WhereGestureTarget {
  layout(): Layout;
  window(): EditorWindow;
  meter(): MeterMap | null;
  spans(): readonly WhereSpan[];
  wherePitch(): [number, number] | null;
  /** Whether a step is the current one whose where may change. */
  mayWhere(): boolean;
  /** Writes a where; the changes of one `gesture` are one action. */
  where(change: WhereChange, gesture: string): void;
  abandonWhere(gesture: string): void;
  /** Stands at the step a span belongs to. */
  standAt(stepId: string): void;
  /** Says that there is no step whose where could be dragged. */
  whereRefused(): void;
}

/** Pixels before a press counts as a drag. */
const DRAG = 3;
let gestures = 0;

/** A gesture that writes the where anew at every move that changes it. */
function writing<T>(
  target: WhereGestureTarget,
  pressed: number,
  at: (x: number, y: number) => number,
  valueAt: (x: number, y: number) => T,
  write: (value: T) => WhereChange,
  onClick?: () => void,
): Gesture {
  const name = `where-${Date.now()}-${gestures++}`;
  let dragged = false;
  let last = '';
  return {
    move(x, y) {
      dragged ||= Math.abs(at(x, y) - pressed) > DRAG;
      if (!dragged) return;
      const change = write(valueAt(x, y));
      const key = JSON.stringify(change);
      if (key !== last) target.where(change, name);
      last = key;
    },
    end() {
      if (!dragged) onClick?.();
    },
    abandon: () => target.abandonWhere(name),
  };
}

/** A press on the strip under the ruler, or with Alt on the ruler itself. */
export function beginSpanGesture(target: WhereGestureTarget, x: number, y: number): Gesture | null {
  const [layout, window, meter] = [target.layout(), target.window(), target.meter()];
  const hit = spanAt(placeSpans(target.spans(), window, layout), x, y);
  const stand = hit && !hit.span.isCurrent ? () => target.standAt(hit.span.stepId) : undefined;
  if (!meter) return null;
  if (!target.mayWhere()) return { move: () => undefined, end: stand ?? (() => target.whereRefused()) };
  const pressed = tickAt(x, window, layout);
  const tick = (atX: number) => tickAt(atX, target.window(), layout);
  const across = (atX: number) => atX;
  const span = hit?.span.isCurrent && hit.span.to !== Infinity ? hit.span : null;
  const write = (bars: [number, number]): WhereChange => ({ bars });
  if (!span || !hit)
    return writing(target, x, across, (atX) => barsBetween(meter, pressed, tick(atX)), write, stand);
  const [first, last] = barsBetween(meter, span.from, span.to);
  if (hit.edge !== null) {
    const fixed = hit.edge === 'from' ? span.to - 1 : span.from;
    return writing(target, x, across, (atX) => barsBetween(meter, fixed, tick(atX)), write);
  }
  // The body of a span is moved by whole bars.
  const home = barsBetween(meter, pressed, pressed)[0];
  return writing(
    target,
    x,
    across,
    (atX): [number, number] => {
      const by = Math.max(1 - first, barsBetween(meter, tick(atX), tick(atX))[0] - home);
      return [first + by, last + by];
    },
    write,
  );
}

/** A press beside the keys: drags the pitches the current step touches. */
export function beginPitchSpanGesture(target: WhereGestureTarget, y: number): Gesture | null {
  if (!target.mayWhere()) return { move: () => undefined, end: () => target.whereRefused() };
  const [layout, window] = [target.layout(), target.window()];
  const pitch = (atY: number) => Math.min(127, Math.max(0, pitchAt(atY, target.window(), layout)));
  const pressed = pitch(y);
  const known = target.wherePitch();
  const near = (edge: number) => Math.abs(edge - pressed) * window.rowHeight <= Math.max(6, window.rowHeight);
  const fixed = known && near(known[0]) ? known[1] : known && near(known[1]) ? known[0] : pressed;
  return writing(
    target,
    y,
    (_, atY) => atY,
    (_, atY): [number, number] => [Math.min(fixed, pitch(atY)), Math.max(fixed, pitch(atY))],
    (range) => ({ pitch: range }),
  );
}

/** What a press on the strip would do, as a cursor. */
export function spanCursor(target: WhereGestureTarget, x: number, y: number): string {
  const hit = spanAt(placeSpans(target.spans(), target.window(), target.layout()), x, y);
  if (hit && !hit.span.isCurrent) return 'pointer';
  if (!target.mayWhere()) return 'default';
  return hit?.edge ? 'ew-resize' : hit && hit.span.to !== Infinity ? 'move' : 'crosshair';
}
