import { OrdleError } from '../../errors';
import type { PulseHints } from '../../session';
import type { FoundBeats } from '../findBeats';
import {
  SAME,
  inOrder,
  laidOut,
  nearestBeat,
  periodAround,
  strokeMeant,
  withTimesMoved,
  type Strokes,
} from './said';

/** Nobody beats faster than this: seconds between two beats. */
export const SHORTEST_BEAT = 0.15;
/** A time this near to a beat, as a share of the beats around, means that beat and no other. */
const THAT_BEAT = 0.3;
/** A beat takes its neighbours along as far as the next one set by hand within so many beats, else over so many. */
const [AS_FAR, ALONG] = [32, 8];
/** Such a beat goes onto a stroke within this of its place, in seconds, and within this share of a beat. */
const [ONTO, ONTO_SHARE] = [0.07, 0.18];
/** A beat this near to a stroke stands on it, in seconds. */
const ON_STROKE = 0.02;

type Said = Pick<FoundBeats, 'beats' | 'division'> & { strokes: Strokes };

/**
 * A beat at another time. Its neighbours go along evenly as far as the next beat that was set by hand, or over some
 * where none is near, and onto the strokes they then mean, so that one that was right stays so; `alone` they stay.
 * Throws `absurd-tempo` where it would leave beats no room.
 */
export function draggedBeats(
  { beats, strokes }: { beats: ArrayLike<number>; strokes: Strokes },
  set: readonly number[],
  beat: number,
  to: number,
  alone: boolean,
): number[] {
  const rows = set.map((at) => nearestBeat(beats, at));
  const end = (step: 1 | -1): number => {
    if (alone) return beat + step;
    let nearest = step > 0 ? Infinity : -Infinity;
    for (const row of rows) if ((row - beat) * step > 0 && (row - nearest) * step < 0) nearest = row;
    return Math.abs(nearest - beat) <= AS_FAR ? nearest : beat + step * ALONG;
  };
  const [first, last] = [end(-1), end(1)];
  const by = to - beats[beat];
  const moved = Array.from(beats, (at, row) => {
    if (row <= first || row >= last) return at;
    if (row === beat) return Math.max(0, to);
    const share = row < beat ? (row - first) / (beat - first) : (last - row) / (last - beat);
    const place = Math.max(0, at + share * by);
    const stroke = strokeMeant(strokes, place, Math.min(ONTO, ONTO_SHARE * periodAround(beats, row)));
    // Where it stands on a stroke already it leaves that only for one that stands out more.
    const own = strokeMeant(strokes, at, ON_STROKE);
    const better = stroke < 0 ? 0 : strokes.strength[stroke];
    if (own >= 0 && better <= strokes.strength[own]) return at;
    return stroke < 0 ? place : strokes.time[stroke];
  });
  refuseAbsurd(moved, beats, beat);
  return moved;
}

/** Refuses beats of which two are nearer than anybody beats, where they were not so before. */
function refuseAbsurd(moved: readonly number[], before: ArrayLike<number>, beat: number): void {
  for (let row = 1; row < moved.length; row++) {
    const gap = moved[row] - moved[row - 1];
    if (gap >= SHORTEST_BEAT || gap >= before[row] - before[row - 1] - 1e-9) continue;
    throw absurd(
      `It would come within ${Math.max(0, Math.round(1000 * gap))} ms of ${row <= beat ? 'the beat before' : 'the next'}`,
      gap,
    );
  }
}

/** The refusal of beats that nobody plays. `means` says in words what would be so. */
export const absurd = (means: string, gap: number): OrdleError =>
  new OrdleError(
    'absurd-tempo',
    `${means}${gap > 1e-3 ? `, ${Math.round(60 / gap).toLocaleString('en')} beats a minute` : ''}. Nothing was changed: take beats out between first, or say it elsewhere.`,
  );

/** A beat is dragged from one time to another, and is set by hand from now on; see `draggedBeats`. */
export function withBeatDragged(
  pulse: PulseHints,
  found: Said,
  from: number,
  to: number,
  alone = false,
): PulseHints {
  const beat = nearestBeat(found.beats, from);
  if (beat < 0) return withBeatAt(pulse, found, to);
  const set = pulse.beats.filter((at) => Math.abs(at - found.beats[beat]) > SAME);
  const laid = draggedBeats(found, set, beat, to, alone);
  const moved = withTimesMoved({ ...pulse, beats: set }, (at) => {
    const row = nearestBeat(found.beats, at);
    return Math.abs(found.beats[row] - at) <= SAME ? laid[row] : at;
  });
  return laidOut({ ...moved, beats: inOrder([...moved.beats, laid[beat]]) }, laid, found);
}

/** A beat is here: one that is near comes here alone; elsewhere it is a new one. Throws like `draggedBeats`. */
export function withBeatAt(pulse: PulseHints, found: Said, at: number): PulseHints {
  const { beats } = found;
  const near = nearestBeat(beats, at);
  const off = near < 0 ? Infinity : Math.abs(beats[near] - at);
  const isSet = near >= 0 && pulse.beats.some((each) => Math.abs(each - beats[near]) <= SAME);
  if (off <= SAME || (!isSet && off <= THAT_BEAT * periodAround(beats, near)))
    return withBeatDragged(pulse, found, beats[near], at, true);
  const laid = inOrder([...beats, at]);
  const row = laid.indexOf(at);
  const gap = Math.min(at - (laid[row - 1] ?? -Infinity), (laid[row + 1] ?? Infinity) - at);
  if (gap < SHORTEST_BEAT) throw absurd(`It would be ${Math.round(1000 * gap)} ms from another beat`, gap);
  return laidOut({ ...pulse, beats: inOrder([...pulse.beats, at]) }, laid, found);
}

/** The beat is none: those beside it become one. */
export function withBeatOut(pulse: PulseHints, found: Said, at: number): PulseHints {
  const beat = nearestBeat(found.beats, at);
  if (beat < 0) return pulse;
  const gone = found.beats[beat];
  const laid = Array.from(found.beats).filter((_, row) => row !== beat);
  return laidOut(
    withTimesMoved(pulse, (each) => (Math.abs(each - gone) <= SAME ? null : each)),
    laid,
    found,
  );
}

/** A beat is no longer set by hand: it goes to the stroke between its neighbours, or to the middle of them. */
export function withBeatFree(pulse: PulseHints, found: Said, strokes: Strokes, at: number): PulseHints {
  const { beats } = found;
  const beat = nearestBeat(beats, at);
  if (beat < 0) return pulse;
  const free = withTimesMoved(pulse, (each) => (Math.abs(each - beats[beat]) <= SAME ? null : each));
  if (pulse.laid === undefined || beat === 0 || beat === beats.length - 1)
    return pulse.laid === undefined ? free : { ...free, laid: Array.from(beats) };
  const middle = (beats[beat - 1] + beats[beat + 1]) / 2;
  const stroke = strokeMeant(strokes, middle, 0.25 * (middle - beats[beat - 1]));
  const laid = Array.from(beats);
  laid[beat] = stroke < 0 ? middle : strokes.time[stroke];
  return laidOut(free, laid, found);
}

/** All beats from one time to another are set by hand, between them are no others, and the rest stands as it is. */
export function withBeatsKept(
  pulse: PulseHints,
  found: Pick<FoundBeats, 'beats' | 'division'>,
  from: number,
  to: number,
): PulseHints {
  const kept = Array.from(found.beats).filter((at) => at >= from && at <= to);
  if (kept.length === 0) return pulse;
  const said: PulseHints = {
    ...pulse,
    beats: inOrder([...pulse.beats, ...kept]),
    only: joined([...(pulse.only ?? []), [kept[0], kept[kept.length - 1]]]),
  };
  return laidOut(said, found.beats, found);
}

/** All but what was set by hand is found anew. */
export function foundAnew(pulse: PulseHints): PulseHints {
  const said = { ...pulse };
  delete said.laid;
  delete said.was;
  return said;
}

/** Stretches that touch are one. */
export function joined(spans: readonly [number, number][]): [number, number][] {
  const all: [number, number][] = [];
  for (const [from, to] of [...spans].sort((one, other) => one[0] - other[0])) {
    const last = all.at(-1);
    if (last && from <= last[1] + SAME) last[1] = Math.max(last[1], to);
    else all.push([from, to]);
  }
  return all;
}
