import type { LanePlace, LaneView } from '@ordle/core';
import type { CurveGestureTarget } from './curveGestures';
import { selectionBox, type SelectionBox } from './shapeGestures';

/** Keys that wait at most while points are on their way. */
const MOST_WAITING = 12;

/**
 * The selected points of a lane, by row. Rows are those of the points shown: when others come, the selection is where a
 * gesture or a key said the selected points will be, else at the very places it was, as after an undo of their values,
 * or gone where one of these is; keys pressed until expected points are there wait for them.
 */
export function createLaneSelection(events: {
  target(): Pick<CurveGestureTarget, 'view' | 'selected'> | null;
  onSelection(rows: ReadonlySet<number>): void;
  onKey(event: KeyboardEvent): void;
}) {
  let rows: ReadonlySet<number> = new Set();
  let box: SelectionBox | null | undefined;
  let expected: readonly LanePlace[] = [];
  /** Where the selected points stand, in ticks. */
  let ticks: readonly number[] = [];
  /** Of another channel, and so of another part, they are other points. */
  let channel = 0;
  const waiting: KeyboardEvent[] = [];

  function select(next: Iterable<number>) {
    rows = new Set(next);
    box = undefined;
    const view = events.target()?.view();
    ticks = view ? Array.from(rows, (row) => view.points.tick[row]) : [];
    channel = view?.channel ?? 0;
    events.onSelection(rows);
  }

  /** The rows of points at the places of those selected; none where one is not there any more. */
  function atTheirPlaces({ points, channel: own }: LaneView): number[] {
    if (own !== channel) return [];
    const wanted = new Set(ticks);
    const found = Array.from(points.tick.keys()).filter((row) => wanted.has(points.tick[row]));
    return found.length === ticks.length ? found : [];
  }

  /** Selects the points that were put where they are expected, once they are there. */
  function findExpected({ points, low, high }: LaneView) {
    const wanted = new Map(expected.map(({ at, value }) => [Math.round(at), value]));
    const found: number[] = [];
    for (let row = 0; row < points.length; row++) {
      const value = wanted.get(Math.round(points.tick[row]));
      const held = value === undefined ? NaN : Math.min(high, Math.max(low, value));
      if (Math.abs(held - points.value[row]) <= 1) found.push(row);
    }
    if (found.length > 0) expected = [];
    select(found);
  }

  return {
    rows: () => rows,
    select,
    /** The box around the selected points, worked out once for each selection. */
    box(): SelectionBox | null {
      const target = box === undefined ? events.target() : null;
      if (target) box = selectionBox(target);
      return box ?? null;
    },
    /** Says where points will be that are to be selected; none forgets what was expected. */
    expect(places: readonly LanePlace[]) {
      expected = places;
      if (places.length === 0) waiting.length = 0;
    },
    isExpecting: () => expected.length > 0,
    /** Keeps a key for the points that are on their way; false when none are, or too many wait. */
    keep(event: KeyboardEvent): boolean {
      if (expected.length === 0 || waiting.length >= MOST_WAITING) return false;
      waiting.push(event);
      return true;
    },
    /** Other points are shown. */
    arrived(view: LaneView) {
      box = undefined;
      if (expected.length === 0) {
        if (rows.size > 0) select(atTheirPlaces(view));
        return;
      }
      findExpected(view);
      const key = expected.length === 0 ? waiting.shift() : undefined;
      if (key) events.onKey(key);
    },
  };
}
