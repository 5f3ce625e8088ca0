import { laneName, type CurveEdit, type NoteValue, type Timeline } from '@ordle/core';
import type { LaneView } from '@/engine/protocol';
import { readColours } from './colours';
import {
  beginChoice,
  beginPress,
  beginPressRub,
  beginRub,
  beginStroke,
  deleteChosen,
  pointNear,
  type CurveGesture,
  type CurveGestureTarget,
} from './curveGestures';
import { valueAtY } from './laneGeometry';
import { paintCurve, type LaneScene } from './paintCurve';
import type { RollEditor } from './rollEditor';

/** What the Bench tells a lane to show. */
export interface LaneContent {
  view: LaneView;
  timeline: Timeline;
  grid: NoteValue[];
  snap: boolean;
  tool: 'select' | 'draw' | 'erase';
  mayEdit: boolean;
  ink: number;
}

/** What a lane tells the Bench. */
export interface LaneEvents {
  onEdit(label: string, edits: CurveEdit[]): void;
  /** The value under the pointer, or null; and how many points are chosen. */
  onPoint(place: { at: number; value: number } | null): void;
  onChoice(count: number): void;
}

/** Lanes that hold presses rather than curves. */
const PEDALS = new Set(['cc64', 'cc66', 'cc67']);

/** Owns the canvas of one lane, which shares the window of the roll above it. */
export function createCurveLane(
  canvas: HTMLCanvasElement,
  roll: RollEditor,
  rollCanvas: HTMLCanvasElement,
  events: LaneEvents,
) {
  const context = canvas.getContext('2d', { alpha: false });
  let content: LaneContent | null = null;
  let colours = readColours();
  let chosen: ReadonlySet<number> = new Set();
  let stroke: LaneScene['stroke'] = null;
  let box: LaneScene['box'] = null;
  let gesture: CurveGesture | null = null;
  let frame = 0;
  /** Milliseconds the last paintings took, for the benchmark. */
  const paintTimes: number[] = [];

  const isPedal = () => content !== null && PEDALS.has(content.view.lane);

  function paint() {
    frame = 0;
    if (!context || !content) return;
    const begun = performance.now();
    const ratio = globalThis.devicePixelRatio || 1;
    const [width, height] = [canvas.clientWidth, canvas.clientHeight];
    if (canvas.width !== Math.round(width * ratio) || canvas.height !== Math.round(height * ratio)) {
      canvas.width = Math.round(width * ratio);
      canvas.height = Math.round(height * ratio);
    }
    context.setTransform(ratio, 0, 0, ratio, 0, 0);
    paintCurve(context, {
      view: content.view,
      window: roll.window(),
      width,
      height,
      gutter: roll.layout().gutter,
      ink: content.ink,
      colours,
      chosen,
      stroke,
      box,
      pedal: isPedal(),
    });
    paintTimes.push(performance.now() - begun);
    if (paintTimes.length > 2000) paintTimes.shift();
  }
  const invalidate = () => void (frame ||= requestAnimationFrame(paint));

  const target = (now: LaneContent): CurveGestureTarget => ({
    view: () => content?.view ?? now.view,
    height: () => canvas.clientHeight,
    timeline: () => now.timeline,
    grid: () => now.grid,
    snap: () => now.snap,
    ticksPerPixel: () => roll.window().ticksPerPixel,
    placeAt: (x, y) => ({
      at: Math.max(
        0,
        Math.round(roll.window().tick + (x - roll.layout().gutter) * roll.window().ticksPerPixel),
      ),
      value: valueAtY(now.view, y, canvas.clientHeight),
    }),
    xOf: (tick) => roll.layout().gutter + (tick - roll.window().tick) / roll.window().ticksPerPixel,
    chosen: () => chosen,
    choose,
    preview(nextStroke, nextBox) {
      stroke = nextStroke;
      box = nextBox;
      invalidate();
    },
    done: (label, edits) => events.onEdit(label, edits),
  });

  function choose(rows: Iterable<number>) {
    chosen = new Set(rows);
    events.onChoice(chosen.size);
    invalidate();
  }

  const placeOf = (event: PointerEvent): [number, number] => {
    const bounds = canvas.getBoundingClientRect();
    return [event.clientX - bounds.left, event.clientY - bounds.top];
  };

  function begin(now: LaneContent, x: number, y: number, event: PointerEvent): CurveGesture {
    const at = target(now);
    const tool = now.mayEdit ? now.tool : 'select';
    if (isPedal()) {
      if (tool === 'erase') return beginPressRub(at, x);
      return now.mayEdit ? beginPress(at, x, y, tool === 'draw') : beginChoice(at, x, y, false);
    }
    if (tool === 'draw') return beginStroke(at, x, y);
    if (tool === 'erase') return beginRub(at, x, y);
    const choice = beginChoice(at, x, y, event.shiftKey);
    return now.mayEdit ? choice : { ...choice, move: () => undefined };
  }

  function onDown(event: PointerEvent) {
    const [x, y] = placeOf(event);
    if (!content || event.button !== 0 || x < roll.layout().gutter) return;
    canvas.setPointerCapture(event.pointerId);
    gesture = begin(content, x, y, event);
    invalidate();
  }

  function onMove(event: PointerEvent) {
    if (!content) return;
    const [x, y] = placeOf(event);
    if (gesture) gesture.move(x, y, event);
    else {
      const near = content.tool === 'select' && !isPedal() ? pointNear(target(content), x, y) : -1;
      canvas.style.cursor =
        content.tool === 'draw' ? 'crosshair' : content.tool === 'erase' ? 'cell' : near >= 0 ? 'move' : '';
    }
    events.onPoint(x < roll.layout().gutter ? null : target(content).placeAt(x, y));
  }

  function onUp(event: PointerEvent) {
    const ended = gesture;
    gesture = null;
    if (event.type === 'pointerup') ended?.end();
    else abandon();
  }

  function abandon() {
    gesture = null;
    stroke = box = null;
    invalidate();
  }

  function onKey(event: KeyboardEvent) {
    if (event.key === 'Escape' && gesture) {
      abandon();
      event.stopPropagation();
    }
  }

  function onKeyHere(event: KeyboardEvent) {
    if (!content || !content.mayEdit || chosen.size === 0) return;
    if (event.key === 'Delete' || event.key === 'Backspace') {
      const edit = deleteChosen(target(content));
      const words = chosen.size === 1 ? 'a point' : `${chosen.size} points`;
      if (edit) events.onEdit(`Delete ${words} in ${laneName(content.view.lane)}`, [edit]);
      choose([]);
    } else if (event.key === 'Escape') choose([]);
    else return;
    event.preventDefault();
    event.stopPropagation();
  }

  const onLeave = () => events.onPoint(null);
  const onWheel = (event: WheelEvent) => {
    // Wheels do here what they do on the roll: its window is this lane's too.
    event.preventDefault();
    rollCanvas.dispatchEvent(new WheelEvent('wheel', event));
  };
  const themes = new MutationObserver(() => {
    colours = readColours();
    invalidate();
  });
  themes.observe(document.documentElement, { attributes: true, attributeFilter: ['data-theme'] });
  const sizes = new ResizeObserver(invalidate);
  sizes.observe(canvas);
  const listeners = {
    pointerdown: onDown,
    pointermove: onMove,
    pointerup: onUp,
    pointercancel: onUp,
    pointerleave: onLeave,
    keydown: onKeyHere,
  };
  for (const [name, listener] of Object.entries(listeners))
    canvas.addEventListener(name, listener as EventListener);
  canvas.addEventListener('wheel', onWheel, { passive: false });
  globalThis.addEventListener('keydown', onKey, true);
  rollCanvas.addEventListener('painted', invalidate);

  return {
    setContent(next: LaneContent) {
      // Rows are those of the points shown: other points, another choice.
      if (content && content.view.points !== next.view.points && chosen.size > 0) choose([]);
      content = next;
      invalidate();
    },
    paintTimes: () => paintTimes,
    /** Where a tick stands on the canvas. */
    xOf: (tick: number) => roll.layout().gutter + (tick - roll.window().tick) / roll.window().ticksPerPixel,
    destroy() {
      cancelAnimationFrame(frame);
      themes.disconnect();
      sizes.disconnect();
      for (const [name, listener] of Object.entries(listeners))
        canvas.removeEventListener(name, listener as EventListener);
      canvas.removeEventListener('wheel', onWheel);
      globalThis.removeEventListener('keydown', onKey, true);
      rollCanvas.removeEventListener('painted', invalidate);
    },
  };
}

export type CurveLane = ReturnType<typeof createCurveLane>;
