import {
  createTimeline,
  pointsOf,
  type CurveEdit,
  type LanePlace,
  type PlacedMark,
  type LaneView,
} from '@ordle/core';
import type { LaneMarks, MarkTarget } from '../lane/markGestures';
import { valueAtY } from '../lane/laneGeometry';

/** Height of the lane: a pixel for each value. */
export const HEIGHT = 143;
const timeline = createTimeline({ kind: 'metrical', ticksPerQuarter: 480 }, [], []);

/** A lane four ticks a pixel from pixel 0 on, a value a pixel, with ways to see what gestures do. */
export function laneOf(
  list: [tick: number, value: number][],
  lane = 'cc11',
  more: Partial<MarkTarget> = {},
  marks: LaneMarks = { marks: [], table: {} },
) {
  const log = {
    done: [] as { label: string; edits: CurveEdit[]; selected: readonly LanePlace[] }[],
    live: [] as string[],
    strokes: [] as unknown[],
    boxes: 0,
    abandoned: [] as string[],
    marks: [] as { label: string; marks: PlacedMark[]; gesture: string | null }[],
  };
  let selected: ReadonlySet<number> = new Set();
  const view: LaneView = {
    lane,
    channel: 1,
    points: pointsOf(list.map(([tick, value]) => ({ tick, value }))),
    trace: null,
    low: 0,
    high: 127,
    resting: 0,
    others: [],
  };
  const target: MarkTarget = {
    view: () => view,
    height: () => HEIGHT,
    timeline: () => timeline,
    grid: () => ['1/16'],
    snap: () => true,
    ticksPerPixel: () => 4,
    placeAt: (x, y) => ({ at: Math.max(0, x * 4), value: valueAtY(view, y, HEIGHT) }),
    xOf: (tick) => tick / 4,
    selected: () => selected,
    select: (rows) => (selected = new Set(rows)),
    preview(stroke, box) {
      log.strokes.push(stroke);
      if (box) log.boxes++;
    },
    live: (label) => log.live.push(label),
    done: (label, edits, places = []) => log.done.push({ label, edits, selected: places }),
    marks: () => marks,
    marksAreHere: () => marks.marks.length > 0,
    abandonMarks: (gesture) => log.abandoned.push(gesture),
    putMarks: (label, next, gesture) => log.marks.push({ label, marks: next, gesture }),
    ...more,
  };
  return { target, log, selected: () => [...selected].sort((a, b) => a - b) };
}

/** A place by tick and value. */
export const at = (tick: number, value: number): [number, number] => [tick / 4, HEIGHT - 8 - value];

export const keys = (held: { alt?: boolean; shift?: boolean } = {}) => ({
  altKey: held.alt ?? false,
  shiftKey: held.shift ?? false,
});
