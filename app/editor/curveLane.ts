import type { CurveEdit, LanePlace, LanePoints, NoteValue, PlacedMark, Timeline } from '@ordle/core';
import type { LaneView } from '@/engine/protocol';
import { beginInLane, cursorInLane } from './beginInLane';
import { readColours } from './colours';
import type { CurveGesture } from './curveGestures';
import { deedOfKey, type Deed } from './curveKeys';
import { createLaneChoice } from './laneChoice';
import { listenToClipboard } from './laneClipboard';
import { PEDAL_LANES, valueAtY } from './laneGeometry';
import { createLive } from './live';
import { markAt, removeMark, turnHairpin, type LaneMarks, type MarkTarget } from './markGestures';
import type { LaneScene } from './laneScene';
import { paintCurve } from './paintCurve';
import type { RollEditor } from './rollEditor';
import { watchColours } from './watchColours';
import type { BentLine } from './shapeGestures';

/** What the Bench tells a lane to show. */
export interface LaneContent {
  view: LaneView;
  timeline: Timeline;
  grid: NoteValue[];
  snap: boolean;
  tool: 'select' | 'draw' | 'erase';
  mayEdit: boolean;
  ink: number;
  /** Music plays: gestures are heard while they go on. */
  playing: boolean;
  /** The marks of the current step, when it puts dynamic marks in this lane. */
  marks: LaneMarks | null;
  /** The stretches of time whose points go along with the selected notes. */
  along: readonly [number, number][];
}

/** What a lane tells the Bench. */
export interface LaneEvents {
  /** What is to be done; edits of one gesture take the place of its earlier ones. */
  onEdit(label: string, edits: CurveEdit[], gesture: string | null): void;
  onAbandon(gesture: string): void;
  onMarks(label: string, marks: PlacedMark[], gesture: string | null): void;
  /** The value under the pointer, or null; and the rows of the selected points. */
  onPoint(place: LanePlace | null): void;
  onChoice(rows: ReadonlySet<number>): void;
  /** The clipboard's text holds no points. */
  onRefused(error: unknown): void;
  playTick(): number;
}

/** Whether two lists hold the same points: the engine sends them anew with every view. */
function samePoints(a: LanePoints, b: LanePoints): boolean {
  if (a.length !== b.length) return false;
  for (let row = 0; row < a.length; row++)
    if (a.tick[row] !== b.tick[row] || a.value[row] !== b.value[row]) return false;
  return true;
}

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
  let stroke: LaneScene['stroke'] = null;
  let box: LaneScene['box'] = null;
  let gesture: CurveGesture | null = null;
  /** A line drawn last, until the lane changes by something else. */
  let line: BentLine | null = null;
  let mine = false;
  let changedMeanwhile = false;
  let frame = 0;
  const live = createLive(events);
  const choice = createLaneChoice({
    target: () => content && target(content),
    onChoice(rows) {
      events.onChoice(rows);
      invalidate();
    },
    onKey: (event) => onKeyHere(event),
  });
  /** Milliseconds the last paintings took, for the benchmark. */
  const paintTimes: number[] = [];

  const isPedal = () => content !== null && PEDAL_LANES.has(content.view.lane);
  const xOf = (tick: number) =>
    roll.layout().gutter + (tick - roll.window().tick) / roll.window().ticksPerPixel;

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
      chosen: choice.rows(),
      chosenBox: content.mayEdit && content.tool === 'select' && !isPedal() && !gesture ? choice.box() : null,
      bend: content.mayEdit && !gesture ? line : null,
      marks: content.marks,
      along: content.along,
      carried: roll.carried(),
      stroke,
      box,
      pedal: isPedal(),
    });
    paintTimes.push(performance.now() - begun);
    if (paintTimes.length > 2000) paintTimes.shift();
  }
  const invalidate = () => void (frame ||= requestAnimationFrame(paint));

  const target = (now: LaneContent): MarkTarget => ({
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
    xOf,
    chosen: choice.rows,
    choose: choice.choose,
    preview(nextStroke, nextBox) {
      stroke = nextStroke;
      box = nextBox;
      invalidate();
    },
    live: (label, make) => live.show(content?.playing ?? false, label, make),
    done(label, edits, places = []) {
      choice.expect(places);
      mine = true;
      live.end(label, edits);
    },
    marks: () => content?.marks ?? { marks: [], table: {} },
    marksAreHere: () => content?.marks != null,
    putMarks: (label, marks, name) => events.onMarks(label, marks, name),
  });

  const placeOf = (event: MouseEvent): [number, number] => {
    const bounds = canvas.getBoundingClientRect();
    return [event.clientX - bounds.left, event.clientY - bounds.top];
  };

  const laneState = (now: LaneContent) => ({
    tool: now.mayEdit ? now.tool : ('select' as const),
    mayEdit: now.mayEdit,
    pedal: isPedal(),
    line,
    box: choice.box(),
  });

  function onDown(event: PointerEvent) {
    const [x, y] = placeOf(event);
    if (!content || event.button !== 0 || x < roll.layout().gutter) return;
    canvas.setPointerCapture(event.pointerId);
    choice.expect([]);
    live.begin();
    gesture = beginInLane(target(content), laneState(content), x, y, event.shiftKey, (next) => {
      line = next;
    });
    invalidate();
  }

  function onMove(event: PointerEvent) {
    if (!content) return;
    const [x, y] = placeOf(event);
    if (gesture) gesture.move(x, y, event);
    else canvas.style.cursor = cursorInLane(target(content), laneState(content), x, y);
    events.onPoint(x < roll.layout().gutter ? null : target(content).placeAt(x, y));
  }

  function onUp(event: PointerEvent) {
    const ended = gesture;
    gesture = null;
    if (event.type === 'pointerup') ended?.end();
    else abandon(ended);
    invalidate();
  }

  function abandon(given: CurveGesture | null) {
    gesture = null;
    stroke = box = null;
    if (given?.abandon) events.onAbandon(given.abandon);
    live.abandon();
    invalidate();
  }

  function onDouble(event: MouseEvent) {
    if (!content?.marks || !content.mayEdit) return;
    const [x, y] = placeOf(event);
    const at = target(content);
    const hit = markAt(at, x, y);
    if (hit) removeMark(at, hit);
    else turnHairpin(at, x, y);
  }

  function onKey(event: KeyboardEvent) {
    if (event.key === 'Escape' && gesture) {
      abandon(gesture);
      event.stopPropagation();
    }
  }

  const keys = (now: LaneContent) => ({
    target: target(now),
    pedal: isPedal(),
    playTick: () => events.playTick(),
  });

  function perform(action: Deed) {
    choice.expect(action.chosen);
    mine = false;
    events.onEdit(action.label, action.edits, null);
    if (action.chosen.length === 0) choice.choose([]);
  }

  function onKeyHere(event: KeyboardEvent) {
    if (!content) return;
    const action = deedOfKey(keys(content), event);
    if (action === null) return;
    event.preventDefault();
    event.stopPropagation();
    // What the last key moved may not be there yet: this one is for what it makes.
    if (choice.keep(event)) return;
    if (action === 'all') choice.choose(content.view.points.tick.keys());
    else if (action === 'none') choice.choose([]);
    else if (content.mayEdit) perform(action);
  }

  const onLeave = () => events.onPoint(null);
  const onWheel = (event: WheelEvent) => {
    const stack = canvas.closest('[data-lanes]');
    const onlyDown =
      !event.ctrlKey && !event.metaKey && !event.altKey && !event.shiftKey && event.deltaX === 0;
    // A stack of lanes too high for its room is scrolled.
    if (onlyDown && stack && stack.scrollHeight > stack.clientHeight + 1) return;
    // Else wheels do here what they do on the roll: its window is this lane's too.
    event.preventDefault();
    rollCanvas.dispatchEvent(new WheelEvent('wheel', event));
  };
  const stopColours = watchColours((next) => {
    colours = next;
    invalidate();
  });
  const sizes = new ResizeObserver(invalidate);
  sizes.observe(canvas);
  const listening = new AbortController();
  const { signal } = listening;
  const listeners = {
    pointerdown: onDown,
    pointermove: onMove,
    pointerup: onUp,
    pointercancel: onUp,
    pointerleave: onLeave,
    dblclick: onDouble,
    keydown: onKeyHere,
  };
  for (const [name, listener] of Object.entries(listeners))
    canvas.addEventListener(name, listener as EventListener, { signal });
  canvas.addEventListener('wheel', onWheel, { passive: false, signal });
  globalThis.addEventListener('keydown', onKey, { capture: true, signal });
  rollCanvas.addEventListener('painted', invalidate, { signal });
  listenToClipboard(
    canvas,
    {
      keys: () => content && keys(content),
      mayEdit: () => content?.mayEdit ?? false,
      perform,
      refused: (error) => events.onRefused(error),
    },
    signal,
  );

  return {
    setContent(next: LaneContent) {
      const others = content !== null && !samePoints(content.view.points, next.view.points);
      // A view worked out anew may hold the same points: what a key did came to nothing.
      const answered = content !== null && content.view !== next.view && choice.isExpecting();
      content = next;
      if (gesture) changedMeanwhile ||= others;
      else if (others || changedMeanwhile || answered) {
        changedMeanwhile = false;
        choice.arrived(next.view);
        // A line can be bent until the lane is changed by something else than its drawing.
        if (!mine) line = null;
        mine = false;
      }
      invalidate();
    },
    paintTimes: () => paintTimes,
    /** Where a tick stands on the canvas. */
    xOf,
    destroy() {
      cancelAnimationFrame(frame);
      stopColours();
      sizes.disconnect();
      listening.abort();
    },
  };
}

export type CurveLane = ReturnType<typeof createCurveLane>;
