import {
  barAt,
  copyPoints,
  drawLine,
  drawPress,
  heldValue,
  createGrid,
  deletePoints,
  deepenPresses,
  deletePresses,
  hullOf,
  laneName,
  layPoints,
  layPresses,
  movePoints,
  movePresses,
  pointsFromText,
  pointsOfPresses,
  pointsToText,
  pressesOf,
  repeatDistance,
  reshapedLine,
  setPoints,
  splitPress,
  type CurveEdit,
  type DrawnLine,
  type LanePlace,
  type TypedValue,
} from '@ordle/core';
import { counted } from '@/words/counts';
import { handOf, placesOf, pointsInWords, type CurveGestureTarget } from './curveGestures';

/** What a key does to the selected points of a lane: in words, as edits, and what is selected afterwards. */
export interface LaneAction {
  label: string;
  edits: CurveEdit[];
  selected: LanePlace[];
  /** What did not come out as it was meant, in a sentence. */
  told?: string;
}

/** What keys in a lane work on. */
export interface Keys {
  target: CurveGestureTarget;
  pedal: boolean;
  playTick(): number;
}

/** What is selected, in words: points, or presses of a pedal. */
function inWords({ target, pedal }: Keys): string {
  const hand = handOf(target.view());
  if (!pedal) return `${pointsInWords(target.selected().size)} in ${laneName(hand.lane)}`;
  const count = pressesOf(hand, target.selected()).length;
  return count === 1 ? 'a press of the pedal' : `${count} presses of the pedal`;
}

/** The selected points or presses as text for the clipboard; null when none is selected. */
export function textOfSelection({ target, pedal }: Keys): string | null {
  const hand = handOf(target.view());
  const rows = target.selected();
  if (rows.size === 0) return null;
  const points = pedal ? pointsOfPresses(hand, pressesOf(hand, rows)) : copyPoints(hand, rows);
  return points.length === 0 ? null : pointsToText(hand, points, target.timeline().ticksPerQuarter);
}

/** Lays points from the clipboard down at the play line. Throws `clipboard` when the text holds none. */
export function pasted(keys: Keys, text: string): LaneAction {
  const { target, pedal, playTick } = keys;
  const hand = handOf(target.view());
  const { points, held } = pointsFromText(text, hand, target.timeline().ticksPerQuarter);
  const told =
    held > 0
      ? `${counted(held, 'point lies', 'points lie')} beyond the bend range of this part and ${held === 1 ? 'was' : 'were'} held to it.`
      : undefined;
  const label = `Paste ${pointsInWords(points.length)} in ${laneName(hand.lane)}`;
  const at = Math.round(playTick());
  if (pedal) {
    const { edits, laid } = layPresses(hand, points, at);
    return { label, edits, selected: laid };
  }
  const { edit, laid } = layPoints(hand, points, at);
  return { label, edits: [edit], selected: laid, told };
}

/** Takes the selected points or presses away. */
export function deleted(keys: Keys): LaneAction {
  const { target, pedal } = keys;
  const hand = handOf(target.view());
  const rows = target.selected();
  return {
    label: `Delete ${inWords(keys)}`,
    edits: pedal ? deletePresses(hand, pressesOf(hand, rows)) : [deletePoints(hand, rows)],
    selected: [],
  };
}

/** Moves the selected by some ticks or by a value, which is how deep a press is. */
export function moved(keys: Keys, ticks: number, value: number): LaneAction | null {
  const { target, pedal } = keys;
  const hand = handOf(target.view());
  const rows = target.selected();
  const [first] = hullOf(hand, rows);
  const by = Math.max(ticks, -first);
  const label = `Move ${inWords(keys)}`;
  if (pedal) {
    const presses = pressesOf(hand, rows);
    const { edits, laid } =
      by === 0 ? deepenPresses(hand, presses, () => value) : movePresses(hand, presses, by);
    return edits.length === 0
      ? null
      : { label: by === 0 ? `Depth of ${inWords(keys)}` : label, edits, selected: laid };
  }
  const selected = placesOf(hand, rows).map((place) => ({ at: place.at + by, value: place.value + value }));
  return { label, edits: [movePoints(hand, rows, by, value)], selected };
}

/**
 * Gives the selected points a value or each another by so much, or the selected presses a depth; null when none is
 * selected.
 */
export function valued(keys: Keys, { relative, value }: TypedValue): LaneAction | null {
  const { target, pedal } = keys;
  const hand = handOf(target.view());
  const rows = target.selected();
  if (rows.size === 0) return null;
  const figure = String(Math.round(value * 100) / 100);
  const label = relative ? `Shift ${inWords(keys)} by ${figure}` : `Value ${figure} for ${inWords(keys)}`;
  if (pedal) {
    const by = ({ depth }: { depth: number }) => (relative ? value : value - depth);
    const { edits, laid } = deepenPresses(hand, pressesOf(hand, rows), by);
    return { label, edits, selected: laid };
  }
  const { low, high } = target.view();
  const edit = setPoints(hand, rows, { relative, value }, [low, high]);
  const among = new Set(placesOf(hand, rows).map(({ at }) => at));
  return { label, edits: [edit], selected: edit.points.filter(({ at }) => among.has(at)) };
}

/** The selected again as many whole bars later as they reach over. */
function repeated(keys: Keys): LaneAction {
  const { target, pedal } = keys;
  const hand = handOf(target.view());
  const rows = target.selected();
  const points = pedal ? pointsOfPresses(hand, pressesOf(hand, rows)) : copyPoints(hand, rows);
  const hull: [number, number] = [points.tick[0], points.tick[points.length - 1]];
  const at = hull[0] + repeatDistance(hull, target.timeline());
  if (pedal) {
    const { edits, laid } = layPresses(hand, points, at);
    return { label: `Repeat ${inWords(keys)}`, edits, selected: laid };
  }
  const { edit, laid } = layPoints(hand, points, at);
  return { label: `Repeat ${inWords(keys)}`, edits: [edit], selected: laid };
}

/** Length of a press that is put by key, in beats. */
const PRESS_BEATS = 1;

/** A point at the play line with the value that holds there, or a press of a beat from there. */
export function inserted({ target, pedal, playTick }: Keys): LaneAction {
  const { meter } = target.timeline();
  const hand = handOf(target.view());
  const at = Math.max(0, Math.round(playTick()));
  if (pedal) {
    const end = at + PRESS_BEATS * meter.beatTicks[barAt(meter, at).row];
    const { edits, laid } = drawPress(hand, at, end, 127);
    return { label: 'Press the pedal', edits, selected: laid };
  }
  const value = heldValue(hand.points, at, hand.resting);
  const edit: CurveEdit = {
    lane: hand.lane,
    channel: hand.channel,
    from: at,
    to: at,
    points: [{ at, value }],
  };
  return { label: `A point in ${laneName(hand.lane)}`, edits: [edit], selected: [{ at, value }] };
}

/** A bar of straight line from the play line on, at the value that holds there: to be shaped by its figures. */
export function lined({ target, playTick }: Keys): LaneAction {
  const hand = handOf(target.view());
  const at = Math.max(0, Math.round(playTick()));
  const { start, end } = barAt(target.timeline().meter, at);
  const value = heldValue(hand.points, at, hand.resting);
  const edit = drawLine(hand, { at, value }, { at: at + end - start, value }, target.timeline());
  return { label: `Draw a line in ${laneName(hand.lane)}`, edits: [edit], selected: [] };
}

/** A drawn line in another shape. */
export const reshaped = ({ target }: Keys, line: DrawnLine, next: DrawnLine): LaneAction => {
  const hand = handOf(target.view());
  return {
    label: `Shape a line in ${laneName(hand.lane)}`,
    edits: [reshapedLine(hand, line, next, target.timeline())],
    selected: [],
  };
};

/** The rows of the next point or press, or the one before: from what is selected, else from the play line. */
function walked({ target, pedal, playTick }: Keys, by: 1 | -1): number[] {
  const hand = handOf(target.view());
  const { tick } = hand.points;
  const stops: number[][] = pedal
    ? pressesOf(hand, new Set(tick.keys())).map(({ first, stop }) =>
        Array.from({ length: stop - first }, (_, row) => first + row),
      )
    : Array.from(tick.keys(), (row) => [row]);
  if (stops.length === 0) return [];
  const selected = target.selected();
  const at = stops.findIndex((rows) => rows.some((row) => selected.has(row)));
  const now = playTick();
  const after = stops.findIndex(([first]) => tick[first] >= now - 0.5);
  const fresh = by > 0 ? (after < 0 ? stops.length - 1 : after) : after < 0 ? stops.length - 1 : after - 1;
  return stops[Math.min(stops.length - 1, Math.max(0, at < 0 ? fresh : at + by))];
}

/** Splits the presses under the play line. */
function split({ target, playTick }: Keys): LaneAction | null {
  const hand = handOf(target.view());
  const at = Math.round(playTick());
  const all = new Set(hand.points.tick.keys());
  const edits = pressesOf(hand, all).flatMap((press) => splitPress(hand, press, at, target.timeline()) ?? []);
  return edits.length === 0 ? null : { label: 'Split a press of the pedal', edits, selected: [] };
}

/**
 * What a key pressed in a lane does; null when it is none of the lane's, so that it goes on to the notes. Arrows move
 * what is selected by a grid unit or a unit of value (with Shift by a tick, or ten units); full stop and comma go from
 * point to point or press to press, Insert puts one at the play line.
 */
export function actionOfKey(
  keys: Keys,
  event: KeyboardEvent,
): LaneAction | { walkTo: number[] } | 'all' | 'none' | null {
  const { target, pedal } = keys;
  const some = target.selected().size > 0;
  const command = event.ctrlKey || event.metaKey;
  if (command && event.key.toLowerCase() === 'a') return 'all';
  if (pedal && !command && event.key.toLowerCase() === 'x') return split(keys);
  if (!command && !event.altKey && (event.key === '.' || event.key === ','))
    return { walkTo: walked(keys, event.key === '.' ? 1 : -1) };
  if (!command && event.key === 'Insert') return inserted(keys);
  if (!some || event.altKey) return null;
  if (command) return event.key.toLowerCase() === 'd' ? repeated(keys) : null;
  const step = event.shiftKey ? 1 : Math.min(...createGrid(target.timeline().meter, target.grid()).steps);
  const unit = event.shiftKey ? 10 : 1;
  switch (event.key) {
    case 'Delete':
    case 'Backspace':
      return event.shiftKey ? null : deleted(keys);
    case 'Escape':
      return 'none';
    case 'ArrowLeft':
      return moved(keys, -step, 0);
    case 'ArrowRight':
      return moved(keys, step, 0);
    case 'ArrowUp':
      return moved(keys, 0, unit);
    case 'ArrowDown':
      return moved(keys, 0, -unit);
    default:
      return null;
  }
}
