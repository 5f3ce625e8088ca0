import { barAt } from './meterMap';
import type { Timeline } from './timeline';
import { secondsToTicks, ticksToSeconds, type TempoMap } from './tempoMap';

/**
 * People play ahead of the line: a start less than this before it, and less than a thirty-second, belongs to what
 * begins there.
 */
const REACH_SECONDS = 0.06;
/** Starts within this of a chord's first belong to the chord, which goes whole where its last start goes. */
export const CHORD_SECONDS = 0.03;
/** Ticks by which a place that went through seconds may be off. */
const ROUNDING = 1e-6;

/**
 * For each start (ticks, in order) the place that decides which bar it belongs to: the last start of its chord.
 * Compare it with a line by `belongsFrom`. The musical bar of the recipe format.
 */
export function musicalPlaces(starts: Float64Array, timeline: Timeline): Float64Array {
  const known = placesOf.get(starts);
  if (known?.timeline === timeline) return known.places;
  const places = placedAnew(starts, timeline);
  placesOf.set(starts, { timeline, places });
  return places;
}

/** The last tick at which a note is of one chord with a note that starts at a tick. */
export const endOfChord = (start: number, tempo: TempoMap): number =>
  secondsToTicks(tempo, ticksToSeconds(tempo, start) + CHORD_SECONDS) + ROUNDING;

/** Columns never change, and every slider of a step that is bound to bars asks for theirs. */
const placesOf = new WeakMap<Float64Array, { timeline: Timeline; places: Float64Array }>();

function placedAnew(starts: Float64Array, { tempo }: Timeline): Float64Array {
  const places = new Float64Array(starts.length);
  let first = 0;
  while (first < starts.length) {
    const limit = endOfChord(starts[first], tempo);
    let end = first + 1;
    while (end < starts.length && starts[end] <= limit) end++;
    places.fill(starts[end - 1], first, end);
    first = end;
  }
  return places;
}

/**
 * From where on a musical place belongs to the stretch that begins at `line`, a tick; exclusive: what lies after it
 * belongs.
 */
export function reachBefore(line: number, { tempo, ticksPerQuarter }: Timeline): number {
  if (line === 0) return -Infinity;
  const early = secondsToTicks(tempo, ticksToSeconds(tempo, line) - REACH_SECONDS);
  return Math.max(early, line - ticksPerQuarter / 8) + ROUNDING;
}

/** A test of musical places: whether they belong to what begins at `line`. */
export function belongsFrom(line: number, timeline: Timeline): (place: number) => boolean {
  const reach = reachBefore(line, timeline);
  return (place) => place >= line || place > reach;
}

/**
 * The number of the musical bar each start belongs to, as a function of its musical place. Bars are looked up once
 * each: ask in order of time.
 */
export function createMusicalBars(timeline: Timeline): (place: number) => number {
  let [from, to, number] = [Infinity, -Infinity, 0];
  return (place) => {
    if (place >= from && place < to) return number;
    const bar = barAt(timeline.meter, Math.max(0, place));
    const isAhead = belongsFrom(bar.end, timeline)(place);
    const reach = reachBefore(bar.end, timeline);
    number = bar.number + (isAhead ? 1 : 0);
    [from, to] = isAhead ? [place, bar.end] : [bar.start, Math.min(reach, bar.end)];
    return number;
  };
}
