import { lastAtOrBefore, barNumbered, ticksToSeconds } from '../time';
import type { Measured } from './measured';

/** What a chart tells, by what its bins are along and what stands in them. */
export const CHART_KINDS = [
  'off-the-lines',
  'by-place',
  'along-bars',
  'tempo',
  'velocity',
  'velocity-by-place',
  'length',
  'to-the-next',
  'density',
  'pedal',
] as const;
export type ChartKind = (typeof CHART_KINDS)[number];

/** A bin: what lies from `from` up to `to` (Infinity: and all beyond), with what stands in it before and after. */
export interface ChartBin {
  from: number;
  to: number;
  before: BinSide;
  after: BinSide;
}
export interface BinSide {
  /** Notes in the bin; of the pedal, presses. */
  notes: number;
  /** What the chart tells of them in its unit; null where it tells nothing. */
  value: number | null;
}

/** Bars side by side in one bin at most: a chart of very many bars is still one that can be read and drawn. */
const MOST_BARS = 240;
/**
 * Half the width of the histograms of times, and a bin of them, in ms; the outermost bins hold all that lies beyond.
 */
const OFF = { reach: 80, bin: 5 };
const GAPS = { reach: 400, bin: 25 };
const VELOCITY_BIN = 4;
/** Lengths in ms, two bins an octave, as lengths are heard by their ratio. */
const LENGTHS = [0, ...Array.from({ length: 22 }, (_, half) => 12.5 * 2 ** (half / 2)), Infinity];
/** Starts nearer to each other than this are one stroke; what follows it is the next, in seconds. */
const ONE_STROKE = 0.03;

/** What the bins of a kind are along, and which row each entry is of; NaN for what is in no bin. */
interface Along {
  x: Float64Array;
  row?: Int32Array;
}

/** A chart of a part before and after, over one set of bins. Linear in the notes. */
export function chartOf(kind: ChartKind, before: Measured, after: Measured): ChartBin[] {
  const [one, other] = [along(kind, before), along(kind, after)];
  const edges = edgesOf(kind, [one.x, other.x]);
  const [was, is] = [sideOf(kind, before, one, edges), sideOf(kind, after, other, edges)];
  return was.map((side, bin) => ({ from: edges[bin], to: edges[bin + 1], before: side, after: is[bin] }));
}

/**
 * Ids of the notes in a bin of `chartOf`, by its place there, on one side; of the pedal, of the strokes its presses
 * belong to.
 */
export function notesOfBin(
  kind: ChartKind,
  sides: { before: Measured; after: Measured },
  side: 'before' | 'after',
  bin: number,
): Float64Array {
  const own = along(kind, sides[side]);
  const other = along(kind, sides[side === 'before' ? 'after' : 'before']);
  const edges = edgesOf(kind, [own.x, other.x]);
  const ids = new Set<number>();
  own.x.forEach((value, at) => {
    if (!Number.isNaN(value) && edges.length > 1 && binAt(value, edges) === bin)
      ids.add(sides[side].notes.id[own.row ? own.row[at] : at]);
  });
  return Float64Array.from(ids);
}

const HISTOGRAMS: Partial<Record<ChartKind, { reach: number; bin: number }>> = {
  'off-the-lines': OFF,
  'to-the-next': GAPS,
  pedal: GAPS,
};

function along(kind: ChartKind, measured: Measured): Along {
  switch (kind) {
    case 'off-the-lines':
      return { x: measured.lateMs };
    case 'by-place':
    case 'velocity-by-place':
      return { x: measured.beat };
    case 'along-bars':
    case 'tempo':
    case 'density':
      return { x: measured.bar };
    case 'velocity':
      return { x: measured.notes.velocity.map(Math.round) };
    case 'length':
      return { x: lengthsMs(measured) };
    case 'to-the-next':
      return { x: gapsMs(measured) };
    case 'pedal':
      return { x: measured.presses.afterMs, row: measured.presses.row };
  }
}

const lengthsMs = ({ notes, second, timeline }: Measured) =>
  second.map((start, row) => 1000 * (ticksToSeconds(timeline.tempo, notes.end[row]) - start));

/** From the end of each note to the next stroke, in ms: below 0 the two overlap. NaN for the last ones. */
function gapsMs({ notes, second, timeline }: Measured): Float64Array {
  const gaps = new Float64Array(notes.length).fill(NaN);
  let next = 0;
  for (let row = 0; row < notes.length; row++) {
    while (next < notes.length && second[next] - second[row] <= ONE_STROKE) next++;
    if (next === notes.length) break;
    gaps[row] = 1000 * (second[next] - ticksToSeconds(timeline.tempo, notes.end[row]));
  }
  return gaps;
}

/** The ends of the bins, one more than there are bins. */
function edgesOf(kind: ChartKind, sides: readonly Float64Array[]): number[] {
  const histogram = HISTOGRAMS[kind];
  if (histogram) {
    const { reach, bin } = histogram;
    const count = (2 * reach) / bin + 1;
    return Array.from({ length: count + 1 }, (_, at) => -reach + (at - 0.5) * bin);
  }
  if (kind === 'length') return trimmed(LENGTHS, sides);
  if (kind === 'velocity')
    return Array.from({ length: 128 / VELOCITY_BIN + 1 }, (_, at) => at * VELOCITY_BIN);
  if (kind === 'by-place' || kind === 'velocity-by-place') {
    const places = new Set<number>();
    for (const x of sides) for (const place of x) places.add(place);
    const sorted = [...places].sort((a, b) => a - b);
    const last = sorted.at(-1);
    return last === undefined ? [0] : [...sorted, Math.floor(last) + 1];
  }
  return barEdges(sides);
}

/** Bins of bars from the first with a note to the last. */
function barEdges(sides: readonly Float64Array[]): number[] {
  let [first, last] = [Infinity, -Infinity];
  for (const x of sides) {
    for (const bar of x) {
      if (bar < first) first = bar;
      if (bar > last) last = bar;
    }
  }
  if (last < first) return [0];
  const wide = Math.ceil((last - first + 1) / MOST_BARS);
  const count = Math.ceil((last - first + 1) / wide);
  return Array.from({ length: count + 1 }, (_, at) => first + at * wide);
}

/** Edges without the empty bins at both ends. */
function trimmed(edges: readonly number[], sides: readonly Float64Array[]): number[] {
  let [low, high] = [Infinity, -Infinity];
  for (const x of sides) {
    for (const value of x) {
      const bin = binAt(value, edges);
      low = Math.min(low, bin);
      high = Math.max(high, bin);
    }
  }
  return high < low ? [0] : edges.slice(low, high + 2);
}

/** The bin a value lies in; what lies beyond is in the outermost. */
const binAt = (value: number, edges: ArrayLike<number>): number =>
  Math.min(edges.length - 2, Math.max(0, lastAtOrBefore(edges, value)));

function sideOf(kind: ChartKind, measured: Measured, { x }: Along, edges: readonly number[]): BinSide[] {
  const bins = edges.length - 1;
  const [notes, sum] = [new Float64Array(bins), new Float64Array(bins)];
  const told =
    kind === 'velocity-by-place' ? measured.notes.velocity : isMeanLateness(kind) ? measured.lateMs : null;
  const ends = Float64Array.from(edges);
  for (let at = 0; at < x.length; at++) {
    if (Number.isNaN(x[at])) continue;
    const bin = binAt(x[at], ends);
    notes[bin]++;
    if (told) sum[bin] += told[at];
  }
  const mean = Array.from(notes, (count, bin) => (count === 0 ? null : sum[bin] / count));
  if (kind === 'tempo') return temposOf(measured, edges, mean, notes);
  const wide = kind === 'density' ? edges[1] - edges[0] : 1;
  return mean.map((value, bin) => ({ notes: notes[bin], value: told ? value : notes[bin] / wide }));
}

const isMeanLateness = (kind: ChartKind) => kind === 'by-place' || kind === 'along-bars' || kind === 'tempo';

/**
 * The tempo as it is played, in quarters a minute: between the middles of the bins before and after a bin, the time
 * the map gives them, longer by what the playing falls behind and shorter by what it gets ahead.
 */
function temposOf(
  { timeline }: Measured,
  edges: readonly number[],
  lateMs: readonly (number | null)[],
  notes: Float64Array,
): BinSide[] {
  const { meter, tempo, ticksPerQuarter } = timeline;
  const filled = lateMs.flatMap((late, bin) => {
    if (late === null) return [];
    const tick = (barNumbered(meter, edges[bin]).start + barNumbered(meter, edges[bin + 1]).start) / 2;
    return [{ bin, tick, second: ticksToSeconds(tempo, tick) + late / 1000 }];
  });
  const values = new Map<number, number>();
  for (let at = 0; at < filled.length; at++) {
    const [one, other] = [filled[Math.max(0, at - 1)], filled[Math.min(filled.length - 1, at + 1)]];
    if (other.second > one.second)
      values.set(
        filled[at].bin,
        (60 * (other.tick - one.tick)) / ticksPerQuarter / (other.second - one.second),
      );
  }
  return Array.from(notes, (count, bin) => ({ notes: count, value: values.get(bin) ?? null }));
}
