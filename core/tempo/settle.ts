import { mapItems, type Session } from '../session';
import { createStep, type PulseStep } from '../steps';
import { barAt, barNumbered, createTimeline, secondsToTicks, type Timeline } from '../time';
import { withBarsSaid } from './byHand';
import { lockedPart, underMap } from './underMap';
import { bpmOfBeats, type FoundBeats } from './findBeats';
import { steadyLine } from './refine';
import { mapOfBeats } from './underFoundMap';

/** How closely the tempo follows the beats: each of them, one tempo a bar, smoothed, or one steady tempo. */
export type Settling = 'beats' | 'bars' | 'smooth' | 'steady';

/** Beats that are smoothed together, on either side. */
const SMOOTH = 4;
/** A first beat that is played sooner than this counts as at the start, in seconds. */
const AT_START = 0.08;

/**
 * The beats as a settled tempo has them, and how far the farthest is from the one that was found, in ms; with
 * `roundTo` of tempos that are whole multiples of so many bpm. What rounding leaves is carried on, so that it does
 * not add up; one steady tempo is laid so that it is off by nothing on average.
 */
export function settledBeats(
  found: FoundBeats,
  settling: Settling,
  roundTo?: number,
): { settled: FoundBeats; largestErrorMs: number } {
  const exact = placed(found, settling);
  const beats = roundTo === undefined ? exact : rounded(exact, found.downbeats, settling, roundTo);
  const largest = beats.reduce((most, at, beat) => Math.max(most, Math.abs(at - found.beats[beat])), 0);
  return { settled: { ...found, beats, bpm: bpmOfBeats(beats) }, largestErrorMs: 1000 * largest };
}

function placed({ beats, downbeats }: FoundBeats, settling: Settling): Float64Array {
  if (settling === 'steady') {
    const { period, start } = steadyLine(beats);
    return beats.map((_, beat) => start + beat * period);
  }
  if (settling === 'bars') {
    const even = Float64Array.from(beats);
    // The last bar that is whole has the last tempo.
    for (let bar = 0; bar + 1 < downbeats.length; bar++) {
      const [from, to] = [downbeats[bar], downbeats[bar + 1]];
      for (let beat = from + 1; beat < to; beat++)
        even[beat] = beats[from] + ((beats[to] - beats[from]) * (beat - from)) / (to - from);
    }
    return even;
  }
  if (settling === 'smooth')
    // A straight line through the beats around each, by least squares.
    return beats.map((at, beat) => {
      const first = Math.max(0, beat - SMOOTH);
      const around = beats.subarray(first, beat + SMOOTH + 1);
      if (around.length < 3) return at;
      const { period, start } = steadyLine(around);
      return start + (beat - first) * period;
    });
  return Float64Array.from(beats);
}

/** Beats under tempos of whole multiples of `step` bpm: one for all of them, for each bar, or for each beat. */
function rounded(
  beats: Float64Array,
  downbeats: readonly number[],
  settling: Settling,
  step: number,
): Float64Array {
  if (beats.length < 2) return beats;
  const near = (bpm: number) => Math.max(step, Math.round(bpm / step) * step);
  const last = beats.length - 1;
  if (settling === 'steady') {
    const period = 60 / near((60 * last) / (beats[last] - beats[0]));
    const mean = beats.reduce((sum, at) => sum + at, 0) / beats.length;
    return beats.map((_, beat) => Math.max(0, mean - (last / 2) * period) + beat * period);
  }
  const cuts = settling === 'bars' ? [...new Set([0, ...downbeats, last])].sort((a, b) => a - b) : null;
  const ends = cuts ? cuts.slice(1) : Array.from({ length: last }, (_, beat) => beat + 1);
  const even = Float64Array.from(beats);
  let from = 0;
  for (const to of ends) {
    const period = 60 / near((60 * (to - from)) / Math.max(1e-3, beats[to] - even[from]));
    for (let beat = from + 1; beat <= to; beat++) even[beat] = even[from] + (beat - from) * period;
    from = to;
  }
  return even;
}

/** A beat within this of a time is the one that is meant, in seconds. */
const THAT_BEAT = 0.06;

/** The beats without those at some times, their bars counted on from the first that is left. */
export function withoutBeatsAt(found: FoundBeats, times: readonly number[]): FoundBeats {
  const gone = new Set<number>();
  for (const time of times) {
    let nearest = -1;
    found.beats.forEach((at, beat) => {
      const isNearer = nearest < 0 || Math.abs(at - time) < Math.abs(found.beats[nearest] - time);
      if (Math.abs(at - time) <= THAT_BEAT && isNearer) nearest = beat;
    });
    if (nearest >= 0) gone.add(nearest);
  }
  if (gone.size === 0) return found;
  const beats = found.beats.filter((_, beat) => !gone.has(beat));
  const left = {
    ...found,
    beats,
    sure: found.sure.filter((_, beat) => !gone.has(beat)),
    bpm: bpmOfBeats(beats),
  };
  const bar = found.downbeats.find((beat) => !gone.has(beat));
  return beats.length === 0
    ? { ...left, downbeats: [] }
    : withBarsSaid(left, [{ at: found.beats[bar ?? 0], beat: 1 }]);
}

/**
 * The session whose grid follows the playing of some parts: its tempo map and meter are those of the beats, and these
 * parts stay where they were in real time. Every other part keeps to what it is locked to.
 */
export function gridToPlaying(
  session: Session,
  partIds: readonly string[],
  beats: FoundBeats,
  timeline: Timeline,
): Session {
  // A first beat a moment after the start is the start: a beat of a few milliseconds before it would be none.
  const from =
    beats.beats[0] < AT_START
      ? Float64Array.from(beats.beats, (at, beat) => (beat === 0 ? 0 : at))
      : beats.beats;
  const maps = mapOfBeats({ ...beats, beats: from }, timeline.ticksPerQuarter, true);
  const locked = mapItems(session.parts, (part) =>
    partIds.includes(part.id) ? lockedPart(part, 'seconds', timeline) : part,
  );
  const after = createTimeline(timeline.division, maps.tempos, maps.meters);
  return underMap({ ...session, parts: locked }, maps, timeline, after);
}

/**
 * The step that brings the playing to the grid: each found beat onto a beat of the session, the first downbeat onto
 * the bar line nearest to it and every other by counting on. Null without two beats.
 */
export function playingToGrid(
  found: FoundBeats,
  { tempo, meter, ticksPerQuarter }: Timeline,
): PulseStep | null {
  if (found.beats.length < 2) return null;
  const first = found.downbeats[0] ?? 0;
  const tick = secondsToTicks(tempo, found.beats[first]);
  const bar = barAt(meter, Math.max(0, tick));
  const line = tick - bar.start < bar.end - tick ? bar.start : bar.end;
  const quarters = found.division === 'ternary' ? 1.5 : 1;
  // Beats before the start of the session have no place; a bar later they do.
  const lacking = first * quarters - line / ticksPerQuarter;
  const begun =
    lacking > 0
      ? barLineAfter(lacking + line / ticksPerQuarter, meter, ticksPerQuarter)
      : line / ticksPerQuarter;
  const beats = Array.from(found.beats, (at, beat): [number, number] => [
    secondsToTicks(tempo, at) / ticksPerQuarter,
    begun + (beat - first) * quarters,
  ]).filter(([played, target]) => played >= 0 && target >= 0);
  return beats.length < 2 ? null : (createStep('pulse', { beats }) as PulseStep);
}

function barLineAfter(quarter: number, meter: Timeline['meter'], ticksPerQuarter: number): number {
  const { number, start } = barAt(meter, quarter * ticksPerQuarter);
  const isLine = Math.abs(start - quarter * ticksPerQuarter) < 1e-6;
  return barNumbered(meter, isLine ? number : number + 1).start / ticksPerQuarter;
}
