import { PEDAL_LANES } from '@ordle/core';
import { createSurface, holdClipboard, type Gesture, type Region } from '@/surface';
import { beginInLane, cursorInLane } from './beginInLane';
import { readColours } from '../colours';
import { REACH, handOf, placesOf, pointNear } from './curveGestures';
import { actionOfKey, deleted, pasted, textOfSelection, type LaneAction } from './curveKeys';
import { createLaneCommands } from './laneCommands';
import type { LaneContent, LaneElements, LaneEvents, LaneKept } from './laneContent';
import { pressesIn, samePoints, valueAtY } from './laneGeometry';
import type { LaneScene } from './laneScene';
import { createLaneSelection } from './laneSelection';
import { lineHandleAt } from './shapeGestures';
import { createLive } from './live';
import { markAt, removeMark, turnHairpin, type LaneMarks, type MarkTarget } from './markGestures';
import { paintCurve } from './paintCurve';
import type { RollEditor } from '../roll/rollEditor';
import { watchColours } from '../watchColours';

/** One lane on a surface of its own, which shares the window of the roll above it. */
export function createCurveLane(
  { canvas, playLine, stack }: LaneElements,
  roll: RollEditor,
  events: LaneEvents,
) {
  let content: LaneContent | null = null;
  let colours = readColours();
  let [width, height] = [0, 0];
  let stroke: LaneScene['stroke'] = null;
  let box: LaneScene['box'] = null;
  let changedMeanwhile = false;
  let playTick = 0;
  /**
   * The gesture that put a mark last, and the marks before it: the first click of a double one is meant for the
   * hairpin.
   */
  let lastMark: { gesture: string; before: LaneMarks } | null = null;
  const live = createLive(events);
  const selection = createLaneSelection({
    target: () => content && target(content),
    onSelection(rows) {
      events.onSelection(rows);
      surface.invalidate();
    },
    onKey: (event) => onKey(event),
  });

  const isPedal = () => content !== null && PEDAL_LANES.has(content.view.lane);
  const gutter = () => roll.layout().gutter;
  const xOf = (tick: number) => gutter() + (tick - roll.window().tick) / roll.window().ticksPerPixel;

  function scene(): LaneScene | null {
    if (!content) return null;
    const isStill = content.mayEdit && !surface.isGestureUnderWay();
    return {
      view: content.view,
      window: roll.window(),
      width,
      height,
      gutter: gutter(),
      ink: content.ink,
      colours,
      selected: selection.rows(),
      selectionBox: isStill && content.tool === 'select' && !isPedal() ? selection.box() : null,
      lines: isStill && !isPedal() ? content.lines : [],
      endsShape: content.tool === 'select',
      marks: content.marks,
      error: content.error,
      along: content.along,
      carried: roll.carried(),
      stroke,
      box,
      pedal: isPedal(),
    };
  }

  const target = (now: LaneContent): MarkTarget => ({
    view: () => content?.view ?? now.view,
    height: () => height,
    timeline: () => now.timeline,
    grid: () => now.grid,
    snap: () => now.snap,
    ticksPerPixel: () => roll.window().ticksPerPixel,
    placeAt: (x, y) => ({
      at: Math.max(0, Math.round(roll.window().tick + (x - gutter()) * roll.window().ticksPerPixel)),
      value: valueAtY(now.view, y, height),
    }),
    xOf,
    selected: selection.rows,
    select: selection.select,
    preview(nextStroke, nextBox) {
      stroke = nextStroke;
      box = nextBox;
      surface.invalidate();
    },
    live: (label, make) => live.show(content?.playing ?? false, label, make),
    done(label, edits, places = []) {
      selection.expect(places);
      live.end(label, edits);
    },
    marks: () => content?.marks ?? { marks: [], table: {} },
    marksAreHere: () => content?.marks != null,
    putMarks(label, marks, name) {
      if (name !== null && content?.marks) lastMark ??= { gesture: name, before: content.marks };
      events.onMarks(label, marks, name);
    },
    abandonMarks: (name) => events.onAbandon(name),
  });

  const laneState = (now: LaneContent) => ({
    tool: now.mayEdit ? now.tool : ('select' as const),
    mayEdit: now.mayEdit,
    pedal: isPedal(),
    lines: now.lines,
    box: selection.box(),
  });

  function begin(now: LaneContent, x: number, y: number, adding: boolean): Gesture {
    selection.expect([]);
    live.begin();
    const gesture = beginInLane(target(now), laneState(now), x, y, adding);
    return {
      move(toX, toY, keys) {
        gesture.move(toX, toY, keys);
        events.onPoint(toX < gutter() ? null : target(now).placeAt(toX, toY));
      },
      end: () => gesture.end(),
      abandon() {
        stroke = box = null;
        gesture.abandon?.();
        live.abandon();
      },
    };
  }

  const curve: Region<LaneScene> = {
    box: () => ({ left: gutter(), top: 0, right: width, bottom: height }),
    paint: paintCurve,
    cursor: (x, y) => (content ? cursorInLane(target(content), laneState(content), x, y) : ''),
    hover: (x, y) => events.onPoint(content && target(content).placeAt(x, y)),
    leave: () => events.onPoint(null),
    grabs: (x, y) =>
      content !== null &&
      content.mayEdit &&
      (content.tool !== 'select' ||
        isPedal() ||
        lineHandleAt(target(content), content.lines, x, y, true) !== null ||
        // Points are many: a swipe among them scrolls.
        pointNear(target(content), x, y, REACH) >= 0),
    begin(x, y, event, isSecond) {
      // The second press of a double click puts no second mark.
      if (!content || (isSecond && content.marks)) return null;
      lastMark = null;
      return begin(content, x, y, event.shiftKey);
    },
    doubleClick(x, y) {
      if (!content?.marks || !content.mayEdit) return;
      const put = content.tool === 'draw' ? lastMark : null;
      const at = { ...target(content), ...(put && { marks: () => put.before }) };
      if (put) events.onAbandon(put.gesture);
      lastMark = null;
      const hit = markAt(at, x, y);
      if (hit) removeMark(at, hit);
      else turnHairpin(at, x, y);
    },
  };

  const surface = createSurface<LaneScene>({
    canvas,
    regions: [curve],
    scene,
    onSize(nextWidth, nextHeight) {
      [width, height] = [nextWidth, nextHeight];
    },
    navigation: roll.navigation,
    leavesWheel: ({ ctrlKey, metaKey, altKey, shiftKey, deltaX }) =>
      !(ctrlKey || metaKey || altKey || shiftKey) &&
      deltaX === 0 &&
      stack !== null &&
      stack.scrollHeight > stack.clientHeight + 1,
    onGesture: () => surface.invalidate(),
    onPainted: placePlayLine,
  });

  function placePlayLine() {
    const x = xOf(playTick);
    playLine.style.visibility = x < gutter() ? 'hidden' : 'visible';
    playLine.style.transform = `translateX(${x}px)`;
  }

  const keys = (now: LaneContent) => ({
    target: target(now),
    pedal: isPedal(),
    playTick: () => events.playTick(),
  });

  function perform(action: LaneAction) {
    selection.expect(action.selected);
    events.onEdit(action.label, action.edits, null);
    if (action.told !== undefined) events.onTold(action.told);
    if (action.selected.length === 0) selection.select([]);
  }

  const commands = createLaneCommands(() => (content?.mayEdit ? keys(content) : null), perform);

  function onKey(event: KeyboardEvent) {
    if (!content) return;
    const action = actionOfKey(keys(content), event);
    if (action === null) return;
    event.preventDefault();
    event.stopPropagation();
    // What the last key moved may not be there yet: this one is for what it makes.
    if (selection.keep(event)) return;
    if (typeof action === 'object' && 'walkTo' in action) {
      selection.select(action.walkTo);
      const [first] = action.walkTo;
      const at = first === undefined ? undefined : content.view.points.tick[first];
      if (at !== undefined) roll.bringIntoSight(at);
    } else if (action === 'all') selection.select(content.view.points.tick.keys());
    else if (action === 'none') selection.select([]);
    else if (content.mayEdit) perform(action);
  }

  const stopClipboard = holdClipboard(
    {
      copy: () => content && textOfSelection(keys(content)),
      remove() {
        if (content?.mayEdit) perform(deleted(keys(content)));
      },
      paste(text) {
        if (!content?.mayEdit) return false;
        try {
          perform(pasted(keys(content), text));
        } catch (error) {
          events.onRefused(error);
        }
        return true;
      },
    },
    canvas,
  );
  const stopColours = watchColours((next) => {
    colours = next;
    surface.invalidate();
  });
  const stopFollowing = roll.follow(surface.invalidate);
  canvas.addEventListener('keydown', onKey);

  return {
    setContent(next: LaneContent) {
      const isFirst = content === null;
      const others = content !== null && !samePoints(content.view.points, next.view.points);
      // A view worked out anew may hold the same points: what a key did came to nothing.
      const answered = content !== null && content.view !== next.view && selection.isExpecting();
      content = next;
      if (surface.isGestureUnderWay()) changedMeanwhile ||= others;
      else if (others || changedMeanwhile || answered || (isFirst && selection.isExpecting())) {
        changedMeanwhile = false;
        selection.arrived(next.view);
      }
      surface.invalidate();
    },
    /** Puts the play line at a place, or hides it where it is out of sight. */
    setPlayTick(tick: number) {
      playTick = tick;
      placePlayLine();
    },
    /** Selects some points, by row. */
    select: (rows: Iterable<number>) => selection.select(rows),
    ...commands,
    /** Selects all points, or none. */
    selectAll: () => content && selection.select(content.view.points.tick.keys()),
    /** Selects the point or press at a place, in CSS pixels, unless it is selected; whether there is one. */
    standAt(x: number, y: number): boolean {
      if (!content) return false;
      const at = target(content);
      const near = isPedal()
        ? pressesIn(content.view.points).flatMap(({ first, stop, start, end }) =>
            x >= xOf(start) - 4 && x <= xOf(end) + 4
              ? [Array.from({ length: stop - first }, (_, row) => first + row)]
              : [],
          )[0]
        : [pointNear(at, x, y)].filter((row) => row >= 0);
      if (!near || near.length === 0) return false;
      if (!near.some((row) => selection.rows().has(row))) selection.select(near);
      return true;
    },
    /** What a hand was at: kept while another place is visited. */
    keep: (): LaneKept => ({
      selected: content ? placesOf(handOf(content.view), selection.rows()) : [],
    }),
    /** Takes up what was kept; before the first content is shown. */
    restore(kept: LaneKept) {
      selection.expect(kept.selected);
    },
    paintTimes: surface.paintTimes,
    destroy() {
      surface.destroy();
      stopClipboard();
      stopColours();
      stopFollowing();
      canvas.removeEventListener('keydown', onKey);
    },
  };
}

export type CurveLane = ReturnType<typeof createCurveLane>;
