import { barNumbered, type Timeline } from '../time';
import type { Following } from './follow';
import type { Score } from './score';

/** Playing keeps to the click where its distances from what is written scatter by less than this, in quarters. */
const KEEPS = 0.4;

/**
 * The quarter of the session on which the first bar that is played begins: where it was played to the click, the bar it
 * was played at; else at the bar of the session that has its number. A pick-up ends at a bar line.
 */
export function beginningOf(
  score: Score,
  following: Following,
  ticks: ArrayLike<number>,
  { meter, ticksPerQuarter }: Timeline,
): number {
  const [first] = following.passages;
  if (!first) return 0;
  const bar = barNumbered(meter, 1);
  const wholeBar = (bar.end - bar.start) / ticksPerQuarter;
  const length = score.bars[1] - score.bars[0];
  const pickUp = score.firstBar === 0 && length < wholeBar - 1e-6 ? wholeBar - length : 0;
  const home = first.from + pickUp;
  const distances: number[] = [];
  following.playedOf.forEach((row, index) => {
    if (row >= 0)
      distances.push(ticks[row] / ticksPerQuarter - (home + following.occurrences[index].place - first.from));
  });
  distances.sort((a, b) => a - b);
  const at = (share: number) => distances[Math.floor(share * (distances.length - 1))] ?? 0;
  if (distances.length === 0 || at(0.75) - at(0.25) > KEEPS) return home;
  return Math.max(0, home + Math.round(at(0.5) / wholeBar) * wholeBar);
}
