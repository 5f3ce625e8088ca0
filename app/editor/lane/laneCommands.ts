import type { DrawnLine, TypedValue } from '@ordle/core';
import { deleted, inserted, lined, moved, reshaped, valued, type Keys, type LaneAction } from './curveKeys';

/** What lists, fields and menus do to a lane. `keys` is null while nothing may be done to it. */
export function createLaneCommands(keys: () => Keys | null, perform: (action: LaneAction) => void) {
  const act = (make: (now: Keys) => LaneAction | null) => {
    const now = keys();
    const action = now && make(now);
    if (action) perform(action);
  };
  return {
    /** Gives the selected points a value, or the selected presses a depth, or each another by so much. */
    setValue: (value: TypedValue) => act((now) => valued(now, value)),
    /** Puts a point, or a press, at the play line. */
    insert: () => act(inserted),
    /** Draws a line from the play line on. */
    insertLine: () => act(lined),
    /** Gives a drawn line another shape. */
    reshape: (line: DrawnLine, next: DrawnLine) => act((now) => reshaped(now, line, next)),
    /** Moves the selected points or presses by so many ticks. */
    moveBy: (ticks: number) => act((now) => moved(now, ticks, 0)),
    /** Takes the selected points or presses away. */
    deleteSelected: () => act((now) => (now.target.selected().size > 0 ? deleted(now) : null)),
  };
}
