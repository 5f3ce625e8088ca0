import { footMoves, pointsOf, type LanePoints, type PedalSpan } from '../curves';
import type { CurveEdit } from '../steps';
import type { LaneHand } from './curveOperations';
import { laidOf, pieceOf, withPresses, type Laid } from './pressOperations';

/** The pedals of a channel (0-15) as a hand sees them. */
export const pedalHand = (lane: string, channel: number, points: LanePoints): LaneHand => ({
  lane,
  channel: channel + 1,
  points,
  low: 0,
  high: 127,
  resting: 0,
});

/** A press that goes along with notes, or as much of it as is theirs: the rest holds notes of others and stays. */
export interface OwnPress {
  press: PedalSpan;
  /** Where it leaves the rest behind; its end where it goes whole. */
  until: number;
}

/**
 * The presses that belong to notes in a stretch: those that begin in it. One that reaches in from before stays, since
 * it holds what was let go before; of one that lasts beyond the stretch, when `isHeldAfter` says that something else
 * is let go under the rest, goes only what lies in it, and nothing where it holds none of the notes (`holdsOwn`).
 */
export function ownPresses(
  points: LanePoints,
  [from, to]: readonly [number, number],
  isHeldAfter: (press: PedalSpan) => boolean,
  holdsOwn: (press: PedalSpan) => boolean,
): OwnPress[] {
  return footMoves(points)
    .filter(({ start }) => start >= from && start < to)
    .flatMap((press): OwnPress[] => {
      if (press.end <= to || !isHeldAfter(press)) return [{ press, until: press.end }];
      return holdsOwn(press) ? [{ press, until: to }] : [];
    });
}

/**
 * Edits that move, copy or take out presses: `place` tells where a tick goes (null: nowhere), `leaves` whether they
 * leave their old place.
 */
export function pressesAlong(
  hand: LaneHand,
  own: readonly OwnPress[],
  { place, leaves }: { place: ((tick: number) => number) | null; leaves: boolean },
): CurveEdit[] {
  if (own.length === 0) return [];
  const rest: Laid[] = own.flatMap(({ press, until }) =>
    leaves && until < press.end
      ? [laidOf(pieceOf(hand, press, until, lastOf(press)), press.end === Infinity)]
      : [],
  );
  const gone: Laid[] = place
    ? own.map(({ press, until }) =>
        laidOf(
          pieceOf(hand, press, press.start, until === Infinity ? lastOf(press) : until).map(
            ({ at, value }) => ({
              at: Math.max(0, place(at)),
              value,
            }),
          ),
          until === Infinity,
        ),
      )
    : [];
  return withPresses(hand, leaves ? own.map(({ press }) => press) : [], [...rest, ...gone]);
}

const lastOf = ({ end }: PedalSpan) => (end === Infinity ? 1e9 : end);

/** The points of presses as a clip has them, from `origin` on; one without an end is let go where the clip ends. */
export function clipOfPresses(
  hand: LaneHand,
  own: readonly OwnPress[],
  to: number,
): { at: number; value: number }[] {
  return own.flatMap(({ press, until }) =>
    pieceOf(hand, press, press.start, until === Infinity ? Math.max(to, press.start + 1) : until),
  );
}

/** Edits that lay presses down whose points are given, in order. */
export function layPressPoints(
  hand: LaneHand,
  places: readonly { at: number; value: number }[],
): CurveEdit[] {
  const points = pointsOf(places.map(({ at, value }) => ({ tick: Math.max(0, at), value })));
  const fresh = footMoves(points).map((press) =>
    laidOf(pieceOf({ ...hand, points }, press, press.start, lastOf(press)), press.end === Infinity),
  );
  return withPresses(hand, [], fresh);
}
