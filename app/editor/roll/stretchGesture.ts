import { tickAt, rollTop, xOf } from './geometry';
import type { Gesture } from '@/surface';
import { snapped, type NoteGestureTarget } from './noteGestures';

/** Pixels of the grip at the end of the selected notes, from the top of the roll. */
export const GRIP = { width: 9, height: 18 };
const LEAST_FACTOR = 0.01;

/** From the first start to the last end of the selected notes; null when fewer than two are selected. */
export interface SelectionSpan {
  from: number;
  to: number;
}

/** Whether a place is on the grip that stretches the selected notes. */
export function isOnGrip(target: NoteGestureTarget, x: number, y: number): boolean {
  const span = target.selectionSpan();
  if (!span || !target.mayEdit() || target.tool() !== 'select') return false;
  const [layout, window] = [target.layout(), target.window()];
  const top = rollTop(layout);
  return (
    Math.abs(x - xOf(span.to, window, layout)) <= GRIP.width / 2 + 2 && y >= top && y <= top + GRIP.height + 2
  );
}

/**
 * Drags the end of the selected notes: their first start stays, everything between is stretched. Alt is free of the
 * grid.
 */
export function beginStretchGesture(target: NoteGestureTarget, pressed: number): Gesture | null {
  const span = target.selectionSpan();
  if (!span) return null;
  let factor = 1;
  return {
    move(x, y, event) {
      const [layout, window] = [target.layout(), target.window()];
      const wanted = span.to + (x - pressed) * window.ticksPerPixel;
      const end = event.altKey ? Math.round(tickAt(x, window, layout)) : snapped(target, wanted);
      factor = Math.min(100, Math.max(LEAST_FACTOR, (end - span.from) / (span.to - span.from)));
      target.preview({ kind: 'stretch', anchor: span.from, factor, x, y });
    },
    end() {
      target.preview(null);
      if (Math.abs(factor - 1) > 1e-9) target.done({ kind: 'stretch', factor });
    },
  };
}
