import type { CurveEdit, LanePlace, LanePoints, NoteValue, PlacedMark, Timeline } from '@ordle/core';
import type { LaneView } from '@/engine/protocol';
import { beginInLane, cursorInLane } from './beginInLane';
import { readColours } from './colours';
import type { CurveGesture } from './curveGestures';
import { deedOfKey, type Deed } from './curveKeys';
import { listenToClipboard } from './laneClipboard';
import { PEDAL_LANES, valueAtY } from './laneGeometry';
import { createLive } from './live';
import { markAt, removeMark, turnHairpin, type LaneMarks, type MarkTarget } from './markGestures';
import { paintCurve, type LaneScene } from './paintCurve';
import type { RollEditor } from './rollEditor';
import { chosenBox, type BentLine } from './shapeGestures';

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
  /** The marks of the step stood at, when it puts dynamic marks in this lane. */
  marks: LaneMarks | null;
  /** The stretches of time whose points go along with the chosen notes. */
  along: readonly [number, number][];
}

/** What a lane tells the Bench. */
export interface LaneEvents {
  /** What is to be done; edits of one gesture take the place of its earlier ones. */
  onEdit(label: string, edits: CurveEdit[], gesture: string | null): void;
  onAbandon(gesture: string): void;
  onMarks(label: string, marks: PlacedMark[], gesture: string | null): void;
  /** The value under the pointer, or null; and the rows of the chosen points. */
  onPoint(place: LanePlace | null): void;
  onChoice(rows: ReadonlySet<number>): void;
  /** The clipboard's text holds no points. */
  onRefused(error: unknown): void;
  playTick(): number;
}

/** Keys that wait at most while points are on their way. */
const MOST_WAITING = 12;

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
  let chosen: ReadonlySet<number> = new Set();
  let stroke: LaneScene['stroke'] = null;
  let box: LaneScene['box'] = null;
  let gesture: CurveGesture | null = null;
  /** A line drawn last, until the lane changes by something else; and places to choose once they are there. */
  let line: BentLine | null = null;
  let mine = false;
  let toChoose: readonly LanePlace[] = [];
  let changedMeanwhile = false;
  const waitingKeys: KeyboardEvent[] = [];
  let frame = 0;
  const live = createLive(events);
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
      chosen,
      chosenBox: content.mayEdit && content.tool === 'select' && !isPedal() && !gesture ? bounds() : null,
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
    chosen: () => chosen,
    choose,
    preview(nextStroke, nextBox) {
      stroke = nextStroke;
      box = nextBox;
      invalidate();
    },
    live: (label, make) => live.show(content?.playing ?? false, label, make),
    done(label, edits, places = []) {
      toChoose = places;
      mine = true;
      live.end(label, edits);
    },
    marks: () => content?.marks ?? { marks: [], table: {} },
    marksAreHere: () => content?.marks != null,
    putMarks: (label, marks, name) => events.onMarks(label, marks, name),
  });

  let boxOfChoice: ReturnType<typeof chosenBox> | undefined;
  /** The box around the chosen points, worked out once for each choice. */
  function bounds() {
    if (!content) return null;
    boxOfChoice ??= chosenBox(target(content));
    return boxOfChoice;
  }

  function choose(rows: Iterable<number>) {
    chosen = new Set(rows);
    boxOfChoice = undefined;
    events.onChoice(chosen);
    invalidate();
  }

  /** Chooses the points that a gesture put where they are, once the engine has them. */
  function chooseAgain(view: LaneView) {
    const wanted = new Map(toChoose.map(({ at, value }) => [Math.round(at), value]));
    const rows: number[] = [];
    for (let row = 0; row < view.points.length; row++) {
      const value = wanted.get(Math.round(view.points.tick[row]));
      const held = value === undefined ? NaN : Math.min(view.high, Math.max(view.low, value));
      if (Math.abs(held - view.points.value[row]) <= 1) rows.push(row);
    }
    if (rows.length > 0) toChoose = [];
    choose(rows);
  }

  const placeOf = (event: MouseEvent): [number, number] => {
    const bounds = canvas.getBoundingClientRect();
    return [event.clientX - bounds.left, event.clientY - bounds.top];
  };

  const laneState = (now: LaneContent) => ({ tool: now.mayEdit ? now.tool : ('select' as const), mayEdit: now.mayEdit, pedal: isPedal(), line, box: bounds() }); // prettier-ignore

  function onDown(event: PointerEvent) {
    const [x, y] = placeOf(event);
    if (!content || event.button !== 0 || x < roll.layout().gutter) return;
    canvas.setPointerCapture(event.pointerId);
    toChoose = [];
    waitingKeys.length = 0;
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

  function perform(deed: Deed) {
    toChoose = deed.chosen;
    mine = false;
    events.onEdit(deed.label, deed.edits, null);
    if (deed.chosen.length === 0) choose([]);
  }

  function onKeyHere(event: KeyboardEvent) {
    if (!content) return;
    // What the last key moved is not there yet: this one is for what it makes.
    const early = toChoose.length > 0 && waitingKeys.length < MOST_WAITING;
    const deed = deedOfKey(keys(content), event);
    if (deed === null) return;
    event.preventDefault();
    event.stopPropagation();
    if (early) waitingKeys.push(event);
    else performKey(content, deed);
  }

  function performKey(now: LaneContent, deed: Deed | 'all' | 'none') {
    if (deed === 'all') choose(now.view.points.tick.keys());
    else if (deed === 'none') choose([]);
    else if (now.mayEdit) perform(deed);
  }

  /** Goes on with the keys pressed while points were on their way. */
  function performWaiting() {
    const event = toChoose.length === 0 ? waitingKeys.shift() : undefined;
    const deed = event && content ? deedOfKey(keys(content), event) : null;
    if (deed !== null && content) performKey(content, deed);
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
      const answered = content !== null && content.view !== next.view && toChoose.length > 0;
      content = next;
      boxOfChoice = undefined;
      if (gesture) changedMeanwhile ||= others;
      else if (others || changedMeanwhile || answered) {
        changedMeanwhile = false;
        // Rows are those of the points shown: other points, another choice.
        if (toChoose.length > 0) {
          chooseAgain(next.view);
          performWaiting();
        } else if (chosen.size > 0) choose([]);
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
      themes.disconnect();
      sizes.disconnect();
      listening.abort();
    },
  };
}

export type CurveLane = ReturnType<typeof createCurveLane>;
