import { OrdleError } from '../errors';

/**
 * Points one step may make in one part. A wave over three hours makes about as many; far more is a slip (a gap of
 * years between two notes, a range of a million bars) that would only cost time and memory.
 */
export const MOST_POINTS = 1_000_000;

/** Counts the points a step makes. Throws OrdleError `too-many-points` when they are more than a step may make. */
export interface PointBudget {
  /** Says that `count` points are about to be made. */
  spend(count: number): void;
}

/** Notes a layout may lay: a part of a million notes several times over. */
export const MOST_LAID = 4_000_000;
/** Copies a layout may make. */
export const MOST_COPIES = 100_000;

export function createPointBudget(what: string, unit = 'points', most = MOST_POINTS): PointBudget {
  let made = 0;
  return {
    spend(count) {
      made += count;
      if (made <= most) return;
      throw new OrdleError(
        'too-many-points',
        `${what} would make more than ${most.toLocaleString('en')} ${unit}, which is the most one step makes. Limit it to some bars or notes.`,
      );
    },
  };
}
