import { median } from '../../analysis';
import { firstAtOrAfter } from '../../time';
import type { PulseHints } from '../../session';
import { medianGap, type FoundBeats } from '../findBeats';
import { joined } from './posts';
import { inOrder, laidOut, nearestBeat, strokeMeant, withTimesMoved, type Strokes } from './said';

/**
 * Lags that are tried, in seconds: a hand is hardly ahead of what it hears, and late by its own and the sound's way.
 */
const [LEAST, MOST, STEP] = [-0.03, 0.245, 0.005];
/** Taps from which a lag can be told. */
const FEWEST = 4;
/** How taps scatter about a constant lag, in seconds. */
const SCATTER = 0.03;
/** How much a beat that was found speaks for a lag, beside the strokes; and a usual lag, its spread, its weight. */
const [BY_BEATS, USUAL, USUAL_SPREAD, BY_USUAL] = [0.25, 0.07, 0.12, 0.05];
/** A tap means the stroke within this of it once the lag is off, in seconds. */
const MEANT = 0.065;
/** A pause in tapping, in usual distances of taps. */
const PAUSE = 2.5;

/**
 * How late taps are against what they are tapped to, in seconds: the constant lag at which they fall best on strokes
 * that stand out and on beats that were found. 0 where there are too few to tell.
 */
export function lagOfTaps(taps: readonly number[], strokes: Strokes, beats: ArrayLike<number>): number {
  if (taps.length < FEWEST || strokes.time.length === 0) return 0;
  const worthOf = (off: number) => Math.exp(-0.5 * (off / SCATTER) ** 2);
  let [best, most] = [0, -Infinity];
  for (let lag = LEAST; lag <= MOST; lag += STEP) {
    let sum = 0;
    for (const tap of taps) {
      const at = tap - lag;
      let stroke = 0;
      for (
        let row = firstAtOrAfter(strokes.time, at - 0.09);
        row < strokes.time.length && strokes.time[row] <= at + 0.09;
        row++
      )
        stroke = Math.max(stroke, (0.15 + strokes.strength[row]) * worthOf(strokes.time[row] - at));
      const next = firstAtOrAfter(beats, at, beats.length);
      const off = Math.min(at - (beats[next - 1] ?? -Infinity), (beats[next] ?? Infinity) - at);
      sum += stroke + BY_BEATS * worthOf(off);
    }
    const usual = -0.5 * ((lag - USUAL) / USUAL_SPREAD) ** 2;
    const score = sum / taps.length + BY_USUAL * usual;
    if (score > most) [best, most] = [lag, score];
  }
  const offs = taps.flatMap((tap) => {
    const stroke = strokeMeant(strokes, tap - best, 2 * SCATTER);
    return stroke < 0 ? [] : [tap - strokes.time[stroke]];
  });
  return offs.length < FEWEST ? best : median(offs);
}

/** Taps without their lag, each on the stroke it means, if there is one. */
export function tapsMeant(taps: readonly number[], lag: number, strokes: Strokes): number[] {
  const meant: number[] = [];
  for (const tap of taps) {
    const stroke = strokeMeant(strokes, tap - lag, MEANT);
    const at = Math.max(0, stroke < 0 ? tap - lag : strokes.time[stroke]);
    // Two taps are two beats, whatever the strokes are.
    meant.push(at > (meant.at(-1) ?? -1) + 0.05 ? at : Math.max(at, tap - lag));
  }
  return inOrder(meant);
}

/** Taps in runs: after a pause another begins. */
export function runsOfTaps(taps: readonly number[]): number[][] {
  const usual = medianGap(taps);
  const runs: number[][] = [];
  taps.forEach((tap, row) => {
    if (row === 0 || tap - taps[row - 1] > PAUSE * usual) runs.push([]);
    runs[runs.length - 1].push(tap);
  });
  return runs;
}

/**
 * What was tapped along with the playing (`taps` in seconds, rising) is where the beats are: between taps that follow
 * each other there are no others. Their lag, measured over all of them, or `usual` where they are too few, is taken
 * off and comes with it. Beats that were set by hand between them before give way.
 */
export function withTaps(
  pulse: PulseHints,
  found: Pick<FoundBeats, 'beats' | 'division'>,
  taps: readonly number[],
  strokes: Strokes,
  usual = 0,
): { pulse: PulseHints; lag: number } {
  const lag = taps.length < FEWEST ? usual : lagOfTaps(taps, strokes, found.beats);
  const meant = tapsMeant(taps, lag, strokes);
  let said = pulse;
  // Where the taps say what stands there already, all of it stands.
  if (!said.laid && areStanding(meant, found.beats)) said = laidOut(said, found.beats, found);
  for (const run of runsOfTaps(meant)) said = withRun(said, found, run);
  return { pulse: said, lag };
}

/** Taps that are beats which stand: so many of them within so many seconds, and hardly a beat between them. */
const [STANDING, BESIDE, BETWEEN] = [0.8, 0.07, 1.15];

function areStanding(taps: readonly number[], beats: ArrayLike<number>): boolean {
  if (taps.length < FEWEST) return false;
  const same = taps.filter((tap) => Math.abs(beats[nearestBeat(beats, tap)] - tap) <= BESIDE).length;
  const runs = runsOfTaps(taps);
  const within = runs.reduce(
    (sum, run) => sum + nearestBeat(beats, run[run.length - 1]) - nearestBeat(beats, run[0]) + 1,
    0,
  );
  return same >= STANDING * taps.length && within <= BETWEEN * taps.length;
}

function withRun(
  pulse: PulseHints,
  found: Pick<FoundBeats, 'beats' | 'division'>,
  run: readonly number[],
): PulseHints {
  const reach = run.length > 1 ? medianGap(run) / 2 : 0.06;
  const [from, to] = [run[0] - reach, run[run.length - 1] + reach];
  const isOver = (at: number) => at > from && at < to;
  const kept = (times: readonly number[]) => inOrder([...times.filter((at) => !isOver(at)), ...run]);
  // A place in the bars that is tapped again is said of the tap.
  const nearest = (at: number) =>
    run.reduce((best, each) => (Math.abs(each - at) < Math.abs(best - at) ? each : best));
  // Of several that come to one tap the nearest is said of it.
  const isNearest = (at: number) =>
    !(pulse.places ?? []).some(
      (other) =>
        other.at !== at &&
        isOver(other.at) &&
        nearest(other.at) === nearest(at) &&
        Math.abs(other.at - nearest(at)) < Math.abs(at - nearest(at)),
    );
  const places = pulse.places?.filter(({ at }) => !isOver(at) || isNearest(at));
  const moved = withTimesMoved({ ...pulse, ...(places && { places }) }, (at) =>
    isOver(at) ? nearest(at) : at,
  );
  const only = run.length > 1 ? joined([...(moved.only ?? []), [run[0], run[run.length - 1]]]) : moved.only;
  const said: PulseHints = { ...moved, beats: kept(pulse.beats), ...(only && { only }) };
  delete said.was;
  return pulse.laid ? laidOut(said, kept(pulse.laid), found) : said;
}
