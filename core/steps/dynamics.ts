import { z } from 'zod';
import { filterPoints, joinPoints, pointsOf, type LanePoints } from '../curves';
import { withColumns, type NoteTable } from '../model';
import { firstAtOrAfter, musicalPlaces, reachBefore, type Timeline } from '../time';
import { makeRamp, type Curve, type MadePoints } from './curveShapes';
import { isInside } from './regions';

/** Dynamic marks from softest to loudest. */
export const DYNAMIC_MARKS = ['ppp', 'pp', 'p', 'mp', 'mf', 'f', 'ff', 'fff'] as const;
export type DynamicMark = (typeof DYNAMIC_MARKS)[number];

/** Values of the marks on a scale of 1 to 127: even steps, as is common practice; f is 96. */
export const MARK_VALUES: Readonly<Record<DynamicMark, number>> = {
  ppp: 16,
  pp: 33,
  p: 49,
  mp: 64,
  mf: 80,
  f: 96,
  ff: 112,
  fff: 126,
};

const tick = z.number('must be a tick').min(0, 'must be 0 or more').max(1e9, 'must be at most 1000000000');
const value = z.number().min(0, 'must be 0 to 127').max(127, 'must be 0 to 127');

/** A mark at a tick; with a hairpin it grows or fades to the next mark, without one it holds until there. */
export const placedMarkSchema = z.strictObject({
  at: tick,
  mark: z.enum(DYNAMIC_MARKS, `must be one of: ${DYNAMIC_MARKS.join(', ')}`),
  hairpin: z.boolean('must be true or false').default(false),
});

export type PlacedMark = z.infer<typeof placedMarkSchema>;

/** Values for some of the marks, in place of the usual ones. */
export const markTableSchema = z.partialRecord(z.enum(DYNAMIC_MARKS), value);

/**
 * The lane as the marks say: a value at each, ramps where there are hairpins, in place of all that stood from the
 * first mark on.
 */
export function markedDynamics(
  curve: Curve,
  marks: readonly PlacedMark[],
  table: z.infer<typeof markTableSchema>,
): LanePoints {
  const placed = marks.filter(({ at }) => isInside(curve.regions, at)).sort((a, b) => a.at - b.at);
  if (placed.length === 0) return curve.points;
  const valueOf = ({ mark }: PlacedMark) => table[mark] ?? MARK_VALUES[mark];
  const first = placed[0].at;
  const around = filterPoints(curve.points, (at) => at < first || !isInside(curve.regions, at));
  const made: MadePoints = [];
  placed.forEach((mark, index) => {
    const next = placed[index + 1];
    if (mark.hairpin && next !== undefined && next.at > mark.at)
      makeRamp(made, curve, valueOf(mark), valueOf(next), 'line', [mark.at, next.at]);
    else made.push({ tick: mark.at, value: valueOf(mark) });
  });
  return joinPoints(around, pointsOf(made));
}

/**
 * Velocities as the marks say: the touched notes from a mark up to the next are moved together, so that their mean is
 * where the mark is on average and the accents within them stay as played; under a hairpin each moves by where the
 * hairpin is at its start. Notes before the first mark stay. Within 1-127.
 */
export function markedVelocities(
  notes: NoteTable,
  marks: readonly PlacedMark[],
  table: z.infer<typeof markTableSchema>,
  touched: Uint8Array,
  timeline: Timeline,
): NoteTable {
  const placed = [...marks].sort((a, b) => a.at - b.at);
  if (placed.length === 0 || !touched.includes(1)) return notes;
  const ticks = Float64Array.from(placed, ({ at }) => at);
  const valueOf = (index: number) => table[placed[index].mark] ?? MARK_VALUES[placed[index].mark];
  // A note played ahead of a mark belongs to it, as one played ahead of a bar line belongs to the bar.
  const reaches = ticks.map((at) => reachBefore(at, timeline));
  const ruled = musicalPlaces(notes.start, timeline).map((place, row) =>
    touched[row] === 1 ? firstAtOrAfter(reaches, place) - 1 : -1,
  );
  const [sums, counts] = [new Float64Array(placed.length), new Float64Array(placed.length)];
  ruled.forEach((mark, row) => {
    if (mark < 0) return;
    sums[mark] += notes.velocity[row];
    counts[mark]++;
  });
  const velocity = notes.velocity.map((own, row) => {
    const mark = ruled[row];
    if (mark < 0) return own;
    let target = valueOf(mark);
    if (placed[mark].hairpin && mark + 1 < placed.length)
      target +=
        ((valueOf(mark + 1) - target) * Math.max(0, notes.start[row] - ticks[mark])) /
        (ticks[mark + 1] - ticks[mark]);
    return Math.min(127, Math.max(1, target + own - sums[mark] / counts[mark]));
  });
  return withColumns(notes, { velocity });
}
