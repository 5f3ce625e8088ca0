import { mapItems, movedPart, type Part, type PartTake, type Piece, type Session } from '../session';
import { begunLater, type Placing } from '../steps';
import {
  barAt,
  barNumbered,
  belongsFrom,
  createMusicalBars,
  createTimeline,
  secondsToTicks,
  ticksToSeconds,
  type Timeline,
} from '../time';
import { withTimesMoved } from './byHand';
import type { FoundBeats } from './findBeats';
import { toTheClick } from './toTheClick';

/**
 * How far everything has to go, in ticks, so that a place comes to lie on a bar line: the first one, or where music
 * begins before it, the first that leaves it whole bars for its upbeat. `first` is the first start of all that goes
 * along; one that is only played ahead of the place is no upbeat.
 */
export function shiftToBar(at: number, first: number, timeline: Timeline): number {
  const upbeat = at - first;
  if (at > 0 && belongsFrom(at, timeline)(first)) return -at;
  const { start, end } = barAt(timeline.meter, upbeat);
  return (upbeat - start < 1e-6 ? start : end) - at;
}

/**
 * The bar line that comes to bar 1 where the music is to begin there, in ticks: that of the first note's bar. The
 * bars are the session's, or those of the found beats where the playing is not to the session's click.
 */
export function firstBarLine(first: number, timeline: Timeline, found: FoundBeats | null): number {
  if (found && found.downbeats.length > 0 && !toTheClick(found, timeline).is) {
    const lines = found.downbeats.map((beat) => secondsToTicks(timeline.tempo, found.beats[beat]));
    return lines.findLast((line) => line > 0 && belongsFrom(line, timeline)(first)) ?? lines[0];
  }
  const bars = createMusicalBars(timeline);
  return barNumbered(timeline.meter, bars(first)).start;
}

/** How far things go, in ticks and in the seconds that are as long there, and the time they lie in before and after. */
interface Shift {
  ticks: number;
  seconds: number;
  before: Timeline;
  after: Timeline;
}

/**
 * A part that begins earlier or later, by ticks, or by seconds where it is locked to them. What lies before the start
 * is left out of what is laid, not of the take; everything that is said of it goes along: hand edits, what was drawn,
 * blocks, the takes to choose from, and what it was before steps were made permanent.
 */
export function shiftedPart(part: Part, ticks: number, timeline: Timeline): Part {
  const seconds = secondsOf(ticks, timeline);
  return shifted(part, { ticks, seconds, before: timeline, after: timeline }, false);
}

/** The seconds by which what begins at the start, or what is left out before it, is moved. */
const secondsOf = (ticks: number, { tempo }: Timeline) =>
  ticks < 0 ? -ticksToSeconds(tempo, -ticks) : ticksToSeconds(tempo, ticks);

function shifted(part: Part, { ticks, seconds, before, after }: Shift, withSources: boolean): Part {
  const inSeconds = part.lockedTo === 'seconds';
  const by = inSeconds ? seconds : ticks;
  const later = (time: number) => Math.max(0, time + seconds);
  const placing = begunLater({ ticks, seconds: inSeconds ? seconds : null }, before, after);
  return movedPart(part, {
    placing,
    piece: (piece) =>
      (withSources && 'part' in piece.source ? alongSource(piece, by) : laidFrom(piece, by)).map((laid) =>
        withLineAt(laid, placing),
      ),
    take: (take) =>
      withLineAt(
        withSources && 'part' in take.source ? alongTake(take, by) : { ...take, slide: take.slide + by },
        placing,
      ),
    // What is known of the beats is told in real time from the start of the part.
    pulse: (pulse) => withTimesMoved(pulse, (at) => (at + seconds >= 0 ? later(at) : null)),
  });
}

/** A share by hand whose line between the hands, told from bar to bar, goes along with the music. */
function withLineAt<S extends Pick<Piece, 'split'>>(item: S, placing: Placing): S {
  const { split } = item;
  if (!split?.line) return item;
  const moved = split.line.map(({ bar, shift }) => ({ bar: Math.max(1, placing.bar(bar)), shift }));
  // Of several that come to lie in one bar, the last holds there.
  const line = moved.filter(({ bar }, at) => moved[at + 1]?.bar !== bar);
  return { ...item, split: { ...split, line } };
}

/** A piece laid elsewhere; what would come before the start is left out. */
function laidFrom(piece: Piece, by: number): Piece[] {
  const at = piece.at + by;
  if (at >= 0) return [{ ...piece, at }];
  const from = piece.from - at;
  return piece.to !== null && from >= piece.to ? [] : [{ ...piece, at: 0, from }];
}

/** A take that is a part which goes along itself: it lies where it lay in it. */
const alongTake = (take: PartTake, by: number): PartTake => ({
  ...take,
  from: take.from === 0 ? 0 : Math.max(0, take.from + by),
  to: take.to === null ? null : Math.max(0, take.to + by),
});

/** A piece of a part that goes along itself: where it is cut and laid go with it, and a whole one needs nothing. */
function alongSource(piece: Piece, by: number): Piece[] {
  const to = piece.to === null ? null : piece.to + by;
  if (to !== null && to <= 0) return [];
  if (piece.from === 0 && piece.at === 0) return [{ ...piece, to }];
  return [{ ...piece, from: Math.max(0, piece.from + by), to, at: Math.max(0, piece.at + by) }];
}

/**
 * The session with all parts begun earlier or later by some ticks, and with them what is named by ticks: markers and
 * tempo, and the meter where whole bars are left out or put in.
 */
export function shiftedSession(session: Session, ticks: number, before: Timeline): Session {
  const along = <C extends { tick: number }>(changes: readonly C[]): C[] => {
    const moved = changes.map((change, at) => ({
      ...change,
      // What holds at the start holds there still, however much was put in before it.
      tick: at === 0 && change.tick === 0 ? 0 : Math.max(0, Math.round(change.tick + ticks)),
    }));
    // Of several that come to lie on the start, the last holds there.
    return moved.filter(({ tick }, at) => moved[at + 1]?.tick !== tick);
  };
  const far = Math.abs(ticks);
  const isWholeBars = Math.abs(barAt(before.meter, far + 1e-6).start - far) < 1e-3;
  const tempos = session.tempos.length > 1 ? along(session.tempos) : session.tempos;
  const meters = session.meters.length > 1 && isWholeBars ? along(session.meters) : session.meters;
  const after = createTimeline(before.division, tempos, meters);
  const shift = { ticks, seconds: secondsOf(ticks, before), before, after };
  return {
    ...session,
    tempos,
    meters,
    parts: mapItems(session.parts, (part) => shifted(part, shift, true)),
    ...(session.markers && { markers: along(session.markers) }),
  };
}
