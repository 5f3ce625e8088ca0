import type { Gesture } from '@/surface';
import { beginSelection, beginRub, beginStroke, pointNear } from './curveGestures';
import { beginMark, markAt, type MarkTarget } from './markGestures';
import { beginPress, beginPressRub } from './pressGestures';
import type { DrawnLine } from '@ordle/core';
import { beginReshape, beginScale, cornerAt, lineHandleAt, type SelectionBox } from './shapeGestures';

/** What decides which gesture a press in a lane begins. */
export interface LaneState {
  tool: 'select' | 'draw' | 'erase';
  mayEdit: boolean;
  pedal: boolean;
  /** The lines that were drawn here and can be shaped further. */
  lines: readonly DrawnLine[];
  /** The box around the selected points. */
  box: SelectionBox | null;
}

/** The gesture a press at a place begins: handles come before marks, marks before points. */
export function beginInLane(
  target: MarkTarget,
  { tool, mayEdit, pedal, lines, box }: LaneState,
  x: number,
  y: number,
  adding: boolean,
): Gesture {
  if (pedal && mayEdit)
    return tool === 'erase' ? beginPressRub(target, x) : beginPress(target, x, y, tool === 'draw', adding);
  if (!mayEdit)
    return {
      ...beginSelection(target, x, y, adding),
      ...(pointNear(target, x, y) >= 0 ? { move: () => undefined } : {}),
    };
  // With Shift a line is drawn, or a point selected beside others, wherever that begins.
  const held = tool === 'erase' || adding ? null : lineHandleAt(target, lines, x, y, tool === 'select');
  if (held) {
    const row = pointNear(target, x, y);
    const onClick = () => target.select(row < 0 ? [] : [row]);
    return beginReshape(target, held.line, held.handle, onClick);
  }
  const corner = tool === 'select' ? cornerAt(target, box, x, y) : null;
  if (corner && box) return beginScale(target, box, corner, x, y);
  if (target.marksAreHere()) {
    const hit = markAt(target, x, y);
    if (hit && tool !== 'erase') return beginMark(target, x, y, hit);
    if (tool === 'draw') return beginMark(target, x, y, null);
  }
  if (tool === 'draw') return beginStroke(target, x, y);
  if (tool === 'erase') return beginRub(target, x, y);
  return beginSelection(target, x, y, adding);
}

/** The cursor at a place, so that handles can be found. */
export function cursorInLane(
  target: MarkTarget,
  { tool, mayEdit, pedal, lines, box }: LaneState,
  x: number,
  y: number,
): string {
  if (mayEdit && !pedal) {
    const held = tool === 'erase' ? null : lineHandleAt(target, lines, x, y, tool === 'select');
    if (held) return held.handle === 'through' ? 'ns-resize' : 'move';
    const corner = tool === 'select' && box ? cornerAt(target, box, x, y) : null;
    if (corner && box)
      return (corner.at === box.from) === (corner.value === box.high) ? 'nwse-resize' : 'nesw-resize';
    if (target.marksAreHere() && tool !== 'erase' && markAt(target, x, y)) return 'move';
  }
  if (tool === 'draw') return 'crosshair';
  if (tool === 'erase') return 'cell';
  return !pedal && pointNear(target, x, y) >= 0 ? 'move' : '';
}
