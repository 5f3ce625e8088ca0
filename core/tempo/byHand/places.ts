import { OrdleError } from '../../errors';
import type { PulseHints } from '../../session';
import type { FoundBeats } from '../findBeats';
import { SHORTEST_BEAT, absurd, withBeatAt } from './posts';
import { SAME, inOrder, laidOut, nearestBeat, type Strokes } from './said';

export type BeatPlace = NonNullable<PulseHints['places']>[number];

/** A place with the number of its beat, and of the beat that begins its bar, which may lie before all of them. */
interface Counted extends BeatPlace {
  row: number;
  line: number;
}

function counted(beats: ArrayLike<number>, places: readonly BeatPlace[]): Counted[] {
  return places
    .map((place) => {
      const row = nearestBeat(beats, place.at);
      return { ...place, row, line: row - (place.beat - 1) };
    })
    .sort((one, other) => one.row - other.row);
}

/**
 * Beats whose bars are as a person said: each place is the beat of its bar that it was said to be, bars of the usual
 * number of beats stand between, of which the one before a place may be shorter, and the bars are numbered by the
 * first number that was said.
 */
export function withBarsSaid(
  found: FoundBeats,
  places: readonly BeatPlace[],
  beatsPerBar = found.beatsPerBar,
): FoundBeats {
  const count = found.beats.length;
  if (places.length === 0 || count === 0) return { ...found, beatsPerBar };
  const said = counted(found.beats, places);
  const lines = new Set<number>();
  for (let line = said[0].line; line >= 0; line -= beatsPerBar) lines.add(line);
  said.forEach(({ line }, at) => {
    const end = said.at(at + 1)?.line ?? count;
    for (let next = line; next < end || next === line; next += beatsPerBar) lines.add(next);
  });
  const downbeats = [...lines].filter((line) => line >= 0 && line < count).sort((one, other) => one - other);
  const numbered = said.find(({ bar }) => bar !== undefined);
  const barsBefore = (row: number) => downbeats.filter((line) => line <= row).length;
  const firstBar = numbered && Math.max(1, (numbered.bar ?? 1) - barsBefore(numbered.row) + 1);
  return { ...found, downbeats, beatsPerBar, ...(firstBar !== undefined && { firstBar }) };
}

/**
 * A time is a beat of a bar, maybe of one with a number. Where numbers say that there are more beats or fewer than
 * stand between two places, as many are laid between them as were said, along the tempo that stands there; beats set
 * by hand stay. Throws `absurd-tempo` where nobody plays so fast, and `bars-disagree` where what was said before
 * leaves no room for it.
 */
export function withPlaceSaid(
  pulse: PulseHints,
  found: FoundBeats & { strokes: Strokes },
  place: BeatPlace,
): PulseHints {
  const perBar = pulse.beatsPerBar ?? found.beatsPerBar;
  const at = withBeatAt(pulse, found, place.at);
  const beats = at.laid ?? [...found.beats];
  const post = beats[nearestBeat(beats, place.at)];
  const others = (at.places ?? []).filter((each) => Math.abs(each.at - post) > SAME);
  const mine = { ...place, at: post };
  let said: PulseHints = { ...at, places: [...others, mine].sort((one, other) => one.at - other.at) };
  if (place.bar !== undefined) {
    const numbered = others.filter(({ bar }) => bar !== undefined);
    const before = numbered.findLast((each) => each.at < post);
    const after = numbered.find((each) => each.at > post);
    if (before) said = withBeatsBetween(said, found, before, mine, perBar);
    if (after) said = withBeatsBetween(said, found, mine, after, perBar);
  }
  refuseDisagreement(said, found, perBar);
  return said;
}

const barWords = ({ beat, bar }: BeatPlace) => `beat ${beat}${bar === undefined ? '' : ` of bar ${bar}`}`;
const secondsWords = (seconds: number) => `${seconds.toFixed(Math.abs(seconds) < 10 ? 1 : 0)} s`;

/** As many beats between two places as their numbers say. */
function withBeatsBetween(
  pulse: PulseHints,
  found: FoundBeats,
  from: BeatPlace,
  to: BeatPlace,
  perBar: number,
): PulseHints {
  const beats = pulse.laid ?? [...found.beats];
  const [first, last] = [nearestBeat(beats, from.at), nearestBeat(beats, to.at)];
  const wanted = ((to.bar ?? 1) - (from.bar ?? 1)) * perBar + to.beat - from.beat;
  if (wanted === last - first) return pulse;
  const seconds = to.at - from.at;
  if (wanted < 1)
    throw disagree(
      `${barWords(to)} would come before ${barWords(from)}, which lies ${secondsWords(seconds)} earlier`,
    );
  if (seconds / wanted < SHORTEST_BEAT)
    throw absurd(`That would be ${wanted} beats in ${secondsWords(seconds)}`, seconds / wanted);
  const set = pulse.beats.filter((at) => at > from.at + SAME && at < to.at - SAME);
  const posts = [from.at, ...set, to.at];
  const isOnly = (a: number, b: number) =>
    (pulse.only ?? []).some(([x, y]) => a >= x - SAME && b <= y + SAME);
  const stretches = posts.slice(1).map((end, at) => {
    const rows = [nearestBeat(beats, posts[at]), nearestBeat(beats, end)] as const;
    return { rows, isFixed: isOnly(posts[at], end), count: 1 };
  });
  shareOut(stretches, wanted, from, to);
  const laid = [...beats.slice(0, first + 1)];
  for (const { rows, count } of stretches)
    for (let beat = 1; beat <= count; beat++) laid.push(along(beats, rows, beat / count));
  laid.push(...beats.slice(last + 1));
  const tight = laid.findIndex(
    (at, row) => row > 0 && at - laid[row - 1] < SHORTEST_BEAT && at > from.at && at <= to.at,
  );
  if (tight > 0)
    throw absurd(
      `That would be ${wanted} beats in ${secondsWords(seconds)}, two of them nearly at once`,
      laid[tight] - laid[tight - 1],
    );
  return laidOut(pulse, inOrder(laid), found);
}

/** How many beats each stretch gets: as its share of those that stand there, one at least, in all as many as wanted. */
function shareOut(
  stretches: { rows: readonly [number, number]; isFixed: boolean; count: number }[],
  wanted: number,
  from: BeatPlace,
  to: BeatPlace,
): void {
  const free = stretches.filter(({ isFixed }) => !isFixed);
  let left = wanted - stretches.length;
  if (left < 0 || (free.length === 0 && left > 0))
    throw disagree(
      `Between ${barWords(from)} and ${barWords(to)} would be ${wanted} beats, where ${stretches.length} were set by hand`,
    );
  const standing = free.map(({ rows: [a, b] }) => b - a);
  const all = standing.reduce((sum, each) => sum + each, 0);
  const ideal = standing.map((each) => (each / Math.max(1, all)) * (left + free.length) - 1);
  while (left > 0) {
    const next = free.reduce(
      (best, each, at) => (ideal[at] - (each.count - 1) > ideal[best] - (free[best].count - 1) ? at : best),
      0,
    );
    free[next].count++;
    left--;
  }
}

/** The time at a share of the beats between two rows, along the tempo that stands there. */
function along(beats: readonly number[], [first, last]: readonly [number, number], share: number): number {
  const place = first + share * (last - first);
  const row = Math.min(last - 1, Math.floor(place));
  if (row < first) return beats[last];
  return beats[row] + (place - row) * (beats[row + 1] - beats[row]);
}

const disagree = (why: string): OrdleError =>
  new OrdleError(
    'bars-disagree',
    `${why[0].toUpperCase()}${why.slice(1)}. Nothing was changed: take back what was said there first.`,
  );

/** Refuses places that cannot all hold. */
function refuseDisagreement(pulse: PulseHints, found: FoundBeats, perBar: number): void {
  const beats = Float64Array.from(pulse.laid ?? found.beats);
  const places = pulse.places ?? [];
  const said = counted(beats, places);
  said.forEach((place, at) => {
    const before = said.at(at - 1);
    if (at === 0 || !before) return;
    const isInStep = (place.line - before.line) % perBar === 0 && place.line >= before.line;
    if (!isInStep && place.line <= before.row)
      throw disagree(
        `${barWords(before)} was said ${place.row - before.row} beats before, which leaves no room for ${barWords(place)}`,
      );
  });
  const bars = withBarsSaid({ ...found, beats }, places, perBar);
  for (const { bar, row, beat } of said) {
    if (bar === undefined || bars.firstBar === undefined) continue;
    const is = bars.firstBar + bars.downbeats.filter((line) => line <= row).length - 1;
    if (is > bar && said.filter((each) => each.bar !== undefined).length === 1)
      throw disagree(`${is - bar} more bars begin before it, and bars are counted from 1`);
    if (is !== bar)
      throw disagree(`By what was said of other beats it is beat ${beat} of bar ${is}, not of bar ${bar}`);
  }
}
