import { barAt } from '@ordle/core';
import type { EditorWindow } from '@/state/viewSlice';
import {
  VELOCITY_HEIGHT,
  harmonyTop,
  laneTop,
  pitchAt,
  rollTop,
  rollWidth,
  tickAt,
  type Layout,
} from './geometry';
import { beginHarmonyGesture, type HarmonyGestureTarget } from './harmonyLane';
import { beginLaneGesture } from './laneGestures';
import { beginNoteGesture, spotAt, type Gesture, type NoteGestureTarget } from './noteGestures';
import { KEY_STRIP } from './paintSpans';
import {
  beginPitchSpanGesture,
  beginSpanGesture,
  spanCursor,
  type WhereGestureTarget,
} from './whereGestures';
import { beginStretchGesture, isOnGrip } from './stretchGesture';
import { placeSpans, spanAt } from './whereSpans';

/** What gestures may do to the editor. */
export interface GestureTarget extends NoteGestureTarget, WhereGestureTarget, HarmonyGestureTarget {
  canvas: HTMLCanvasElement;
  endTick(): number;
  moveTo(window: EditorWindow): void;
  zoomTimeAt(x: number, factor: number): void;
  zoomPitchAt(y: number, factor: number): void;
  locate(tick: number): void;
  laneHeight(height: number): void;
  loop(from: number, to: number): void;
  /** A key of the gutter was pressed. */
  key(pitch: number, choose: boolean, add: boolean): void;
  hover(x: number, y: number): void;
  hoverSpan(stepId: string | null, x: number): void;
}

/** Pixels the pointer must travel before a press counts as a drag. */
const DRAG_PIXELS = 4;

type Drag =
  | { kind: 'overview' }
  | { kind: 'ruler'; from: number; x: number; moved: boolean }
  | { kind: 'pan'; x: number; y: number; window: EditorWindow }
  | { kind: 'keys'; pitch: number }
  | { kind: 'laneEdge' }
  | { kind: 'notes'; gesture: Gesture };

/** Whether a place is on the upper edge of the velocity lane, which is dragged to make it higher. */
const isOnLaneEdge = (layout: Layout, y: number): boolean =>
  layout.lane > 0 && Math.abs(y - laneTop(layout)) <= 3;

/** Wheel, trackpad and pointer on the editor. Returns the way to take them off. */
export function attachGestures(target: GestureTarget): () => void {
  const { canvas } = target;
  let drag: Drag | null = null;
  /** Fingers on the canvas; two of them pan and zoom. */
  const fingers = new Map<number, { x: number; y: number }>();

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
    target.hover(-1, -1);
    if (event.pointerType === 'touch') {
      fingers.set(event.pointerId, { x, y });
      if (fingers.size > 1) {
        abandon();
        return;
      }
    }
    if (y < layout.overview) {
      drag = { kind: 'overview' };
      centreOn(x);
    } else if (y >= layout.overview + layout.ruler && y < rollTop(layout))
      begin(beginSpanGesture(target, x, y));
    else if (y < rollTop(layout) && event.altKey) begin(beginSpanGesture(target, x, y));
    else if (y < rollTop(layout)) {
      drag = { kind: 'ruler', from: tickAt(x, target.window(), layout), x, moved: false };
    } else if (event.button === 1) {
      event.preventDefault();
      drag = { kind: 'pan', x, y, window: target.window() };
      canvas.style.cursor = 'grabbing';
    } else beginOnNotes(x, y, event);
  }

  function beginOnNotes(x: number, y: number, event: PointerEvent) {
    const layout = target.layout();
    if (isOnLaneEdge(layout, y)) {
      drag = { kind: 'laneEdge' };
      return;
    }
    const inLane = layout.lane > 0 && y >= laneTop(layout);
    const inHarmony = !inLane && y >= harmonyTop(layout) && layout.harmony > 0;
    if (x < layout.gutter) {
      if (inLane || inHarmony) return;
      if (event.altKey || x >= layout.gutter - KEY_STRIP) {
        begin(beginPitchSpanGesture(target, y));
        return;
      }
      const pitch = pitchAt(y, target.window(), layout);
      target.key(pitch, event.ctrlKey || event.metaKey || event.detail === 2, event.shiftKey);
      drag = { kind: 'keys', pitch };
      return;
    }
    if (inHarmony) begin(beginHarmonyGesture(target, x, y, event));
    else if (!inLane && isOnGrip(target, x, y)) begin(beginStretchGesture(target, x));
    else begin(inLane ? beginLaneGesture(target, x, y, event) : beginNoteGesture(target, x, y, event));
  }

  function begin(gesture: Gesture | null) {
    if (gesture) drag = { kind: 'notes', gesture };
  }

  /** Leaves no trace of the gesture under way. */
  function abandon() {
    if (drag?.kind === 'notes') {
      drag.gesture.abandon?.();
      target.preview(null);
    }
    drag = null;
    canvas.style.cursor = '';
  }

  function centreOn(x: number) {
    const layout = target.layout();
    const window = target.window();
    const tick = ((x - layout.gutter) / rollWidth(layout)) * target.endTick();
    target.moveTo({ ...window, tick: tick - (rollWidth(layout) * window.ticksPerPixel) / 2 });
  }

  /** Two fingers: their middle pans, their distance zooms time. */
  function pinch(event: PointerEvent, x: number, y: number) {
    const other = [...fingers].find(([id]) => id !== event.pointerId)?.[1];
    const before = fingers.get(event.pointerId);
    fingers.set(event.pointerId, { x, y });
    if (!other || !before) return;
    const window = target.window();
    target.moveTo({
      ...window,
      tick: window.tick - ((x - before.x) / 2) * window.ticksPerPixel,
      topPitch: window.topPitch + (y - before.y) / 2 / window.rowHeight,
    });
    const [was, is] = [Math.abs(before.x - other.x), Math.abs(x - other.x)];
    if (was > 24 && is > 24) target.zoomTimeAt((x + other.x) / 2, was / is);
  }

  function onMove(event: PointerEvent) {
    const { x, y } = place(event);
    if (fingers.size > 1 && fingers.has(event.pointerId)) {
      pinch(event, x, y);
      return;
    }
    if (!drag) {
      showOffer(x, y);
      target.hover(x, y);
      return;
    }
    if (drag.kind === 'notes') {
      drag.gesture.move(x, y, event);
      return;
    }
    if (drag.kind === 'keys') {
      const pitch = pitchAt(y, target.window(), target.layout());
      if (pitch !== drag.pitch && pitch >= 0 && pitch <= 127) target.key((drag.pitch = pitch), false, false);
      return;
    }
    if (drag.kind === 'laneEdge') {
      const height = target.layout().height - y;
      target.laneHeight(Math.round(Math.min(VELOCITY_HEIGHT.most, Math.max(VELOCITY_HEIGHT.least, height))));
    } else if (drag.kind === 'overview') centreOn(x);
    else if (drag.kind === 'pan') {
      const { window } = drag;
      target.moveTo({
        ...window,
        tick: window.tick - (x - drag.x) * window.ticksPerPixel,
        topPitch: window.topPitch + (y - drag.y) / window.rowHeight,
      });
    } else if (drag.kind === 'ruler' && (drag.moved || Math.abs(x - drag.x) > DRAG_PIXELS)) {
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

  /** The cursor tells what a press here would do. */
  function showOffer(x: number, y: number) {
    const layout = target.layout();
    const inRoll = x >= layout.gutter && y >= rollTop(layout) && y < harmonyTop(layout);
    const inStrip = y >= layout.overview + layout.ruler && y < rollTop(layout) && x >= layout.gutter;
    const hit = inStrip ? spanAt(placeSpans(target.spans(), target.window(), layout), x, y) : null;
    target.hoverSpan(hit?.span.stepId ?? null, x);
    const inHarmony = layout.harmony > 0 && y >= harmonyTop(layout) && y < laneTop(layout);
    if (isOnLaneEdge(layout, y)) canvas.style.cursor = 'ns-resize';
    else if (inStrip) canvas.style.cursor = spanCursor(target, x, y);
    else if (inHarmony && x >= layout.gutter) canvas.style.cursor = 'ns-resize';
    else if (inRoll && isOnGrip(target, x, y)) canvas.style.cursor = 'ew-resize';
    else if (!inRoll && x < layout.gutter && x >= layout.gutter - KEY_STRIP && y >= rollTop(layout))
      canvas.style.cursor = target.mayWhere() ? 'ns-resize' : '';
    else if (!inRoll) canvas.style.cursor = y < layout.overview ? 'pointer' : '';
    else if (target.tool() === 'draw') canvas.style.cursor = 'crosshair';
    else if (target.tool() === 'erase') canvas.style.cursor = 'cell';
    else {
      const { rows, edge } = spotAt(target, x, y);
      canvas.style.cursor = rows.length === 0 ? '' : edge ? 'ew-resize' : 'move';
    }
  }

  function onUp(event: PointerEvent) {
    fingers.delete(event.pointerId);
    const ended = drag;
    drag = null;
    canvas.style.cursor = '';
    if (event.type !== 'pointerup') {
      if (ended?.kind === 'notes') {
        ended.gesture.abandon?.();
        target.preview(null);
      }
      return;
    }
    if (ended?.kind === 'ruler' && !ended.moved) target.locate(ended.from);
    else if (ended?.kind === 'notes') ended.gesture.end();
  }

  function onKey(event: KeyboardEvent) {
    if (event.key !== 'Escape' || !drag) return;
    abandon();
    event.stopPropagation();
    event.preventDefault();
  }

  const onLeave = () => {
    if (drag) return;
    target.hover(-1, -1);
    target.hoverSpan(null, 0);
  };

  canvas.addEventListener('wheel', onWheel, { passive: false });
  canvas.addEventListener('pointerdown', onDown);
  canvas.addEventListener('pointermove', onMove);
  canvas.addEventListener('pointerup', onUp);
  canvas.addEventListener('pointercancel', onUp);
  canvas.addEventListener('lostpointercapture', abandon);
  canvas.addEventListener('pointerleave', onLeave);
  globalThis.addEventListener('keydown', onKey, true);
  return () => {
    canvas.removeEventListener('wheel', onWheel);
    canvas.removeEventListener('pointerdown', onDown);
    canvas.removeEventListener('pointermove', onMove);
    canvas.removeEventListener('pointerup', onUp);
    canvas.removeEventListener('pointercancel', onUp);
    canvas.removeEventListener('lostpointercapture', abandon);
    canvas.removeEventListener('pointerleave', onLeave);
    globalThis.removeEventListener('keydown', onKey, true);
  };
}
