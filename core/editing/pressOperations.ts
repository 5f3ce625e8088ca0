import { footMoves, heldValue, pickPoints, pointsOf, type LanePoints, type PedalSpan } from '../curves';
import { PRESS_AFTER_SECONDS, type CurveEdit } from '../steps';
import { secondsToTicks, ticksToSeconds, type Timeline } from '../time';
import { editOf, type LaneHand, type LanePlace } from './curveOperations';

/** What a hand did to presses: the edits, and the points it laid down. */
export interface PressEdit {
  edits: CurveEdit[];
  laid: LanePlace[];
}

const NOTHING: PressEdit = { edits: [], laid: [] };

/** The last tick an edit of a lane can name: a press that never ends goes on to there. */
const LAST_TICK = 1e9;
const lastTickOf = ({ end }: Pick<PedalSpan, 'end'>) => (end === Infinity ? LAST_TICK : end);

/** The points of a press, the one that lets it go included, unless it never ends. */
function placesOf({ points }: LaneHand, { first, stop, end }: PedalSpan): LanePlace[] {
  const places = Array.from({ length: stop - first }, (_, at) => ({
    at: points.tick[first + at],
    value: points.value[first + at],
  }));
  if (end !== Infinity && places[places.length - 1].value > 0) places.push({ at: end, value: 0 });
  return places;
}

/** The presses, slopes and half presses included, that rows of points belong to. */
export const pressesOf = ({ points }: LaneHand, rows: ReadonlySet<number>): PedalSpan[] =>
  footMoves(points).filter(({ first, stop }) => {
    for (let row = first; row < stop; row++) if (rows.has(row)) return true;
    return false;
  });

/** A press as it is to be: its points, the last of which lets it go, unless it never ends. */
export interface Laid {
  places: LanePlace[];
  from: number;
  to: number;
}

/**
 * The lane with some presses taken out and others laid down. What was pressed and is not taken out stays pressed: of
 * a press that one comes to lie over, what reaches beyond stays, let go where the new one begins or pressed anew
 * where it ends; one that is covered wholly is part of the new one.
 */
export function withPresses(hand: LaneHand, gone: readonly PedalSpan[], fresh: readonly Laid[]): CurveEdit[] {
  const laid = [...fresh].sort((a, b) => a.from - b.from);
  const goneFirst = new Set(gone.map(({ first }) => first));
  let [from, to] = [Infinity, -Infinity];
  const touch = (low: number, high: number) => {
    from = Math.min(from, low);
    to = Math.max(to, high);
  };
  gone.forEach((press) => touch(press.start, lastTickOf(press)));
  laid.forEach((press) => touch(press.from, press.to));
  const pieces: Laid[] = [...laid];
  for (const press of footMoves(hand.points)) {
    if (goneFirst.has(press.first)) continue;
    const left = uncovered(press, laid);
    const isWhole = left.length === 1 && left[0][0] === press.start && left[0][1] === lastTickOf(press);
    if (!isWhole) touch(press.start, lastTickOf(press));
    for (const [low, high] of left)
      pieces.push({ places: pieceOf(hand, press, low, high), from: low, to: high });
  }
  if (from > to) return [];
  // A press that ends where another begins comes before it.
  pieces.sort((a, b) => a.from - b.from || a.to - b.to);
  const places = pieces.flatMap((piece) => piece.places).filter(({ at }) => at >= from && at <= to);
  return [editOf(hand, from, to, places)];
}

/** What of a press lies under none of the laid ones, as stretches of ticks. */
function uncovered(press: PedalSpan, laid: readonly Laid[]): [number, number][] {
  const last = lastTickOf(press);
  const left: [number, number][] = [];
  let at = press.start;
  for (const { from, to } of laid) {
    if (to <= at || from >= last) continue;
    if (from > at) left.push([at, from]);
    at = Math.max(at, to);
  }
  if (at < last) left.push([at, last]);
  return left;
}

/** The points of a press in a stretch of it, begun with what holds there and let go at its end. */
export function pieceOf(hand: LaneHand, press: PedalSpan, low: number, high: number): LanePlace[] {
  const own = placesOf(hand, press).filter(({ at }) => at >= low && at < high);
  const begun =
    low === press.start || own[0]?.at === low
      ? own
      : [{ at: low, value: heldValue(hand.points, low, 0) }, ...own];
  return high === LAST_TICK ? begun : [...begun, { at: high, value: 0 }];
}

/** A press of some points, in order. */
export const laidOf = (places: LanePlace[], isOpen = false): Laid => ({
  places,
  from: places[0].at,
  to: isOpen ? LAST_TICK : places[places.length - 1].at,
});

/** Takes presses out, the half-pedal values within them too. */
export const deletePresses = (hand: LaneHand, presses: readonly PedalSpan[]): CurveEdit[] =>
  withPresses(hand, presses, []);

/** Presses the pedal from one tick to another, as deep as given (1-127; below 64 it is a half press). */
export function drawPress(hand: LaneHand, from: number, to: number, depth: number): PressEdit {
  const laid = [
    { at: from, value: Math.min(127, Math.max(1, Math.round(depth))) },
    { at: to, value: 0 },
  ];
  return { edits: withPresses(hand, [], [laidOf(laid)]), laid };
}

/** Moves presses by some ticks, with their slopes and half-pedal values; none goes before the start of the music. */
export function movePresses(hand: LaneHand, presses: readonly PedalSpan[], ticks: number): PressEdit {
  if (presses.length === 0) return NOTHING;
  const by = Math.max(ticks, -presses.reduce((first, { start }) => Math.min(first, start), Infinity));
  const fresh = presses.map((press) =>
    laidOf(
      placesOf(hand, press).map(({ at, value }) => ({ at: at + by, value })),
      press.end === Infinity,
    ),
  );
  return { edits: withPresses(hand, presses, fresh), laid: fresh.flatMap(({ places }) => places) };
}

/** Makes presses deeper or less deep, each by a value; all stay between 1 and 127. */
export function deepenPresses(
  hand: LaneHand,
  presses: readonly PedalSpan[],
  by: (press: PedalSpan) => number,
): PressEdit {
  const fresh = presses.map((press) => {
    const value = by(press);
    return laidOf(
      placesOf(hand, press).map((place, index, { length }) =>
        index === length - 1 && press.end !== Infinity
          ? place
          : { at: place.at, value: Math.min(127, Math.max(1, place.value + value)) },
      ),
      press.end === Infinity,
    );
  });
  return { edits: withPresses(hand, presses, fresh), laid: fresh.flatMap(({ places }) => places) };
}

/**
 * Lets a press begin or end elsewhere; half-pedal values beyond the new end are gone. A press lasts a tick at least.
 */
export function trimPress(hand: LaneHand, press: PedalSpan, edge: 'start' | 'end', at: number): PressEdit {
  const [down, ...others] = placesOf(hand, press);
  const hasEnd = press.end !== Infinity;
  const release = hasEnd ? others.pop() : undefined;
  const start = edge === 'start' ? Math.min(Math.max(0, at), lastTickOf(press) - 1) : press.start;
  const end = edge === 'end' ? Math.max(at, press.start + 1) : lastTickOf(press);
  const within = others.filter((place) => place.at > start && place.at < end);
  const laid = [{ ...down, at: start }, ...within];
  const isOpen = !hasEnd && edge === 'start';
  if (!isOpen) laid.push({ at: end, value: release?.value ?? 0 });
  return { edits: withPresses(hand, [press], [laidOf(laid, isOpen)]), laid };
}

/**
 * Lets the pedal up at a tick within a press and presses it again just after, as deep as it was there; null where
 * there is no room for that.
 */
export function splitPress(
  hand: LaneHand,
  press: PedalSpan,
  at: number,
  { tempo }: Timeline,
): CurveEdit | null {
  const again = Math.round(secondsToTicks(tempo, ticksToSeconds(tempo, at) + PRESS_AFTER_SECONDS));
  if (at <= press.start || again >= press.end) return null;
  const depth = Math.max(1, heldValue(hand.points, again, 0));
  return editOf(hand, at, again, [
    { at, value: 0 },
    { at: again, value: depth },
  ]);
}

/** The points of some presses, for copying: what lies between them is not among them. */
export const pointsOfPresses = ({ points }: LaneHand, presses: readonly PedalSpan[]): LanePoints =>
  pickPoints(
    points,
    presses.flatMap(({ first, stop }) => Array.from({ length: stop - first }, (_, at) => first + at)),
  );

/** Lays copied presses down with the first point at a tick. */
export function layPresses(hand: LaneHand, points: LanePoints, at: number): PressEdit {
  if (points.length === 0) return NOTHING;
  const by = at - points.tick[0];
  const places = Array.from(points.tick, (tick, row) => ({ tick: tick + by, value: points.value[row] }));
  // What was copied without its end is let go with the last of what was copied.
  const last = places[places.length - 1];
  if (last.value > 0) places.push({ tick: last.tick + 1, value: 0 });
  const moved = pointsOf(places);
  const fresh = footMoves(moved).map(({ first, stop }) =>
    laidOf(
      Array.from({ length: stop - first }, (_, row) => ({
        at: moved.tick[first + row],
        value: moved.value[first + row],
      })),
    ),
  );
  return { edits: withPresses(hand, [], fresh), laid: fresh.flatMap((press) => press.places) };
}
