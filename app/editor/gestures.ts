import { barAt, type MeterMap } from '@ordle/core';
import type { EditorWindow } from '@/state/viewSlice';
import { rollTop, rollWidth, tickAt, type Layout } from './geometry';

/** What gestures may do to the editor. */
export interface GestureTarget {
  canvas: HTMLCanvasElement;
  layout(): Layout;
  window(): EditorWindow;
  endTick(): number;
  moveTo(window: EditorWindow): void;
  zoomTimeAt(x: number, factor: number): void;
  zoomPitchAt(y: number, factor: number): void;
  locate(tick: number): void;
  loop(from: number, to: number): void;
  meter(): MeterMap | null;
  hover(x: number, y: number): void;
}

/** Pixels the pointer must travel before a press counts as a drag. */
const DRAG_PIXELS = 4;

type Drag =
  | { kind: 'overview' }
  | { kind: 'ruler'; from: number; x: number; moved: boolean }
  | { kind: 'pan'; x: number; y: number; window: EditorWindow };

/** Wheel, trackpad and pointer on the editor. Returns the way to take them off. */
export function attachGestures(target: GestureTarget): () => void {
  const { canvas } = target;
  let drag: Drag | null = null;

  const place = (event: MouseEvent) => {
    const box = canvas.getBoundingClientRect();
    return { x: event.clientX - box.left, y: event.clientY - box.top };
  };

  function onWheel(event: WheelEvent) {
    event.preventDefault();
    const { x, y } = place(event);
    const unit = event.deltaMode === 1 ? 16 : event.deltaMode === 2 ? 400 : 1;
    const [dx, dy] = [event.deltaX * unit, event.deltaY * unit];
    const window = target.window();
    // A pinch on a trackpad arrives as a wheel with Ctrl.
    if (event.ctrlKey || event.metaKey) target.zoomTimeAt(x, Math.exp(dy * 0.0025));
    else if (event.altKey) target.zoomPitchAt(y, Math.exp(-dy * 0.0025));
    else {
      const across = event.shiftKey && dx === 0 ? dy : dx;
      const down = event.shiftKey && dx === 0 ? 0 : dy;
      target.moveTo({
        ...window,
        tick: window.tick + across * window.ticksPerPixel,
        topPitch: window.topPitch - down / window.rowHeight,
      });
    }
  }

  function onDown(event: PointerEvent) {
    if (event.button !== 0 && event.button !== 1) return;
    const { x, y } = place(event);
    const layout = target.layout();
    canvas.setPointerCapture(event.pointerId);
    if (y < layout.overview) {
      drag = { kind: 'overview' };
      centreOn(x);
    } else if (y < rollTop(layout)) {
      drag = { kind: 'ruler', from: tickAt(x, target.window(), layout), x, moved: false };
    } else {
      drag = { kind: 'pan', x, y, window: target.window() };
      canvas.style.cursor = 'grabbing';
    }
  }

  function centreOn(x: number) {
    const layout = target.layout();
    const window = target.window();
    const tick = ((x - layout.gutter) / rollWidth(layout)) * target.endTick();
    target.moveTo({ ...window, tick: tick - (rollWidth(layout) * window.ticksPerPixel) / 2 });
  }

  function onMove(event: PointerEvent) {
    const { x, y } = place(event);
    if (!drag) {
      target.hover(x, y);
      return;
    }
    if (drag.kind === 'overview') centreOn(x);
    else if (drag.kind === 'pan') {
      const { window } = drag;
      target.moveTo({
        ...window,
        tick: window.tick - (x - drag.x) * window.ticksPerPixel,
        topPitch: window.topPitch + (y - drag.y) / window.rowHeight,
      });
    } else if (drag.moved || Math.abs(x - drag.x) > DRAG_PIXELS) {
      drag.moved = true;
      loopTo(drag.from, tickAt(x, target.window(), target.layout()));
    }
  }

  /** Loops snap to bar lines where bars are narrow, and to beats where they are wide. */
  function loopTo(from: number, to: number) {
    const meter = target.meter();
    if (!meter) return;
    const [low, high] = from < to ? [from, to] : [to, from];
    const snap = (tick: number, up: boolean) => {
      const bar = barAt(meter, Math.max(0, tick));
      const beat = meter.beatTicks[bar.row];
      const unit = beat / target.window().ticksPerPixel > 24 ? beat : bar.end - bar.start;
      const steps = (Math.max(0, tick) - bar.start) / unit;
      return bar.start + (up ? Math.ceil(steps) : Math.floor(steps)) * unit;
    };
    const [start, end] = [snap(low, false), snap(high, true)];
    if (end > start) target.loop(start, end);
  }

  function onUp(event: PointerEvent) {
    const ended = drag;
    drag = null;
    canvas.style.cursor = '';
    if (ended?.kind === 'ruler' && !ended.moved && event.type === 'pointerup') target.locate(ended.from);
  }

  const onLeave = () => {
    if (!drag) target.hover(-1, -1);
  };

  canvas.addEventListener('wheel', onWheel, { passive: false });
  canvas.addEventListener('pointerdown', onDown);
  canvas.addEventListener('pointermove', onMove);
  canvas.addEventListener('pointerup', onUp);
  canvas.addEventListener('pointercancel', onUp);
  canvas.addEventListener('pointerleave', onLeave);
  return () => {
    canvas.removeEventListener('wheel', onWheel);
    canvas.removeEventListener('pointerdown', onDown);
    canvas.removeEventListener('pointermove', onMove);
    canvas.removeEventListener('pointerup', onUp);
    canvas.removeEventListener('pointercancel', onUp);
    canvas.removeEventListener('pointerleave', onLeave);
  };
}
