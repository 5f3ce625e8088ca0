import { DYNAMIC_MARKS, MARK_VALUES, type DynamicMark, type PlacedMark } from '@ordle/core';
import type { Gesture } from '@/surface';
import { snappedTick, type CurveGestureTarget } from './curveGestures';
import { yOfValue } from './laneGeometry';

/** The dynamic marks of the current step, which are put and moved in its lane. */
export interface LaneMarks {
  marks: readonly PlacedMark[];
  table: Partial<Record<DynamicMark, number>>;
}

/** What gestures on marks need beside what those on points do. */
export interface MarkTarget extends CurveGestureTarget {
  marks(): LaneMarks;
  /** Whether the current step puts marks in this lane. */
  marksAreHere(): boolean;
  /** Writes the marks anew; changes of one gesture are one action. */
  putMarks(label: string, marks: PlacedMark[], gesture: string | null): void;
  /** Takes back what a gesture wrote. */
  abandonMarks(gesture: string): void;
}

/** Where a mark's letters stand beside its tick, in CSS pixels. */
export const MARK_OFFSET = { x: 4, y: -9 };
const REACH_X = 12;
const REACH_Y = 12;

export const valueOfMark = ({ table }: LaneMarks, mark: DynamicMark): number =>
  table[mark] ?? MARK_VALUES[mark];

/** The mark whose value is nearest to one. */
export function markNearest(marks: LaneMarks, value: number): DynamicMark {
  return DYNAMIC_MARKS.reduce((best, mark) =>
    Math.abs(valueOfMark(marks, mark) - value) < Math.abs(valueOfMark(marks, best) - value) ? mark : best,
  );
}

const sorted = (marks: readonly PlacedMark[]) => [...marks].sort((a, b) => a.at - b.at);

/** The mark under a place, by its tick; null when there is none. */
export function markAt(target: MarkTarget, x: number, y: number): PlacedMark | null {
  const all = target.marks();
  const hit = all.marks.find((mark) => {
    const left = target.xOf(mark.at) + MARK_OFFSET.x;
    const middle = yOfValue(target.view(), valueOfMark(all, mark.mark), target.height()) + MARK_OFFSET.y;
    return x >= left - 6 && x <= left + REACH_X + 6 && Math.abs(y - middle) <= REACH_Y;
  });
  return hit ?? null;
}

/**
 * Moves a mark: sideways in time, up and down through the marks. Without one it puts a new one, as loud as the place
 * is high.
 */
export function beginMark(target: MarkTarget, x: number, y: number, hit: PlacedMark | null): Gesture {
  const all = target.marks();
  const gesture = crypto.randomUUID();
  const pressed = target.placeAt(x, y);
  const others = all.marks.filter((mark) => mark !== hit);
  let latest: PlacedMark[] | null = null;
  const put = (at: number, mark: DynamicMark) => {
    const moved: PlacedMark = { at: Math.max(0, at), mark, hairpin: hit?.hairpin ?? false };
    // Of two marks at one place the one that is moved stays.
    latest = sorted([...others.filter((other) => other.at !== moved.at), moved]);
    target.putMarks(hit ? `Move ${hit.mark}` : `Add ${mark}`, latest, gesture);
  };
  if (!hit) put(snappedTick(target, pressed.at, false), markNearest(all, pressed.value));
  return {
    move(toX, toY, event) {
      const place = target.placeAt(toX, toY);
      const start = hit ?? pressed;
      const at = snappedTick(target, start.at + place.at - pressed.at, event.altKey);
      const value = hit ? valueOfMark(all, hit.mark) + place.value - pressed.value : place.value;
      put(at, markNearest(all, value));
    },
    end: () => undefined,
    abandon: () => target.abandonMarks(gesture),
  };
}

/** Turns the hairpin between two marks on or off, at a place between them. */
export function turnHairpin(target: MarkTarget, x: number, y: number): boolean {
  const marks = sorted(target.marks().marks);
  const { at } = target.placeAt(x, y);
  const index = marks.findIndex((mark, row) => mark.at <= at && (marks[row + 1]?.at ?? -1) > at);
  if (index < 0) return false;
  const { mark, hairpin } = marks[index];
  const label = hairpin ? `No hairpin after ${mark}` : `Hairpin from ${mark} to ${marks[index + 1].mark}`;
  target.putMarks(label, marks.with(index, { ...marks[index], hairpin: !hairpin }), null);
  return true;
}

/** Takes the mark under a place away. */
export function removeMark(target: MarkTarget, hit: PlacedMark): void {
  target.putMarks(
    `Remove ${hit.mark}`,
    target.marks().marks.filter((mark) => mark !== hit),
    null,
  );
}
