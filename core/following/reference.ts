import type { NoteTable, Take } from '../model';
import type { Reference } from '../session';
import { ticksPerQuarter } from '../time';
import { rowsOfNotes, scoreOf, type Score } from './score';

/** Ticks a quarter of scores that are kept as takes: thirds, fifths and sevenths of all values are whole. */
export const SCORE_QUARTER = 6720;

const known = new WeakMap<Take, { reference: Reference; score: Score }>();

/** The score of a reference, out of the take it is kept as. */
export function scoreOfReference(reference: Reference, take: Take): Score {
  const there = known.get(take);
  if (there?.reference === reference) return there.score;
  const quarter = ticksPerQuarter(take.division, 500_000);
  const score = scoreOf(rowsOfNotes(take.notes, quarter), {
    bars: reference.bars,
    meters: take.meters.map(({ tick, numerator, denominator }) => ({
      at: tick / quarter,
      numerator,
      denominator,
    })),
    firstBar: reference.firstBar,
    order: reference.order ?? null,
  });
  known.set(take, { reference, score });
  return score;
}

/** The rows of several parts in one order: by start, then pitch. */
export function rowsTogether(tables: readonly NoteTable[]): { part: Int32Array; row: Int32Array } {
  const all = tables.flatMap(({ length }, part) =>
    Array.from({ length }, (_, row): [number, number] => [part, row]),
  );
  all.sort(
    ([a, i], [b, j]) => tables[a].start[i] - tables[b].start[j] || tables[a].pitch[i] - tables[b].pitch[j],
  );
  return {
    part: Int32Array.from(all, ([part]) => part),
    row: Int32Array.from(all, ([, row]) => row),
  };
}
