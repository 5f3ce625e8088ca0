import { PEDAL_DOWN, pedalSpans, pickPoints, type LanePoints, type PedalSpan } from '../curves';
import { PRESS_AFTER_SECONDS, type CurveEdit } from '../steps';
import { secondsToTicks, ticksToSeconds, type Timeline } from '../time';
import { editOf, type LaneHand, type LanePlace } from './curveOperations';
import { clearStretch } from './pointOperations';

/** The last tick a press takes up; one that never ends goes on for as long as ticks are counted. */
const lastTickOf = ({ end }: PedalSpan) => (end === Infinity ? 1e9 : end);

const placesOf = ({ points }: LaneHand, { first, stop }: PedalSpan): LanePlace[] =>
  Array.from({ length: stop - first }, (_, at) => ({
    at: points.tick[first + at],
    value: points.value[first + at],
  }));

/** Takes presses out, the half-pedal values within them too. */
export const deletePresses = (hand: LaneHand, presses: readonly PedalSpan[]): CurveEdit[] =>
  presses.map((press) => clearStretch(hand, press.start, lastTickOf(press)));

/** The presses that rows of points belong to. */
export const pressesOf = ({ points }: LaneHand, rows: ReadonlySet<number>): PedalSpan[] =>
  pedalSpans(points).filter(({ first, stop }) => {
    for (let row = first; row < stop; row++) if (rows.has(row)) return true;
    return false;
  });

/**
 * Presses the pedal from one tick to another, as deep as given (64-127). A press that reaches in from before ends where the new one begins;
 * those that begin within it are gone.
 */
export function drawPress(hand: LaneHand, from: number, to: number, depth: number): CurveEdit[] {
  const inWay = pedalSpans(hand.points).filter(({ start, end }) => start <= to && end > from);
  const reachesIn = inWay.some(({ start }) => start < from);
  const laid = editOf(hand, from, to, [
    ...(reachesIn ? [{ at: from, value: 0 }] : []),
    { at: from, value: Math.max(PEDAL_DOWN, depth) },
    { at: to, value: 0 },
  ]);
  const cleared = inWay.reduce((last, press) => Math.max(last, lastTickOf(press)), to);
  return cleared > to ? [clearStretch(hand, from, cleared), laid] : [laid];
}

/** Moves presses by some ticks, with their half-pedal values; none goes before the start of the music. */
export function movePresses(hand: LaneHand, presses: readonly PedalSpan[], ticks: number): CurveEdit[] {
  const by = Math.max(ticks, -presses.reduce((first, { start }) => Math.min(first, start), Infinity));
  const laid = presses.map((press) => {
    const places = placesOf(hand, press).map(({ at, value }) => ({ at: at + by, value }));
    return editOf(hand, places[0].at, places[places.length - 1].at, places);
  });
  return [...deletePresses(hand, presses), ...laid];
}

/** Lets a press begin or end elsewhere; half-pedal values beyond the new end are gone. A press lasts a tick at least. */
export function trimPress(hand: LaneHand, press: PedalSpan, edge: 'start' | 'end', at: number): CurveEdit[] {
  const [down, ...others] = placesOf(hand, press);
  const hasEnd = press.end !== Infinity;
  const release = hasEnd ? others.pop() : undefined;
  const start = edge === 'start' ? Math.min(Math.max(0, at), lastTickOf(press) - 1) : press.start;
  const end = edge === 'end' ? Math.max(at, press.start + 1) : lastTickOf(press);
  const within = others.filter((place) => place.at > start && place.at < end);
  const places = [{ ...down, at: start }, ...within];
  if (hasEnd || edge === 'end') places.push({ at: end, value: release?.value ?? 0 });
  return [...deletePresses(hand, [press]), editOf(hand, start, places[places.length - 1].at, places)];
}

/**
 * Lets the pedal up at a tick within a press and presses it again just after, as deep as it was there; null where there is no room for that.
 */
export function splitPress(
  hand: LaneHand,
  press: PedalSpan,
  at: number,
  { tempo }: Timeline,
): CurveEdit | null {
  const again = Math.round(secondsToTicks(tempo, ticksToSeconds(tempo, at) + PRESS_AFTER_SECONDS));
  if (at <= press.start || again >= press.end) return null;
  const before = placesOf(hand, press).filter((place) => place.at <= again);
  const depth = Math.max(PEDAL_DOWN, before[before.length - 1].value);
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
