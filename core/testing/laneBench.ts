import { pointsOf, readLane, restingRaw, writeLanes } from '../curves';
import type { LaneHand } from '../editing';
import { noteTableOf } from '../model';
import { applyStep, createStep, type CurveEdit } from '../steps';
import { context, noEvents } from './stepBench';

/** Six points, and the bench's lane with them or others in it. */
export const SIX: [number, number][] = [[0, 10], [100, 20], [200, 30], [300, 40], [400, 50], [500, 60]]; // prettier-ignore
export const handOf = (list: [number, number][] = SIX, lane = 'cc11'): LaneHand => ({
  lane,
  channel: 1,
  points: pointsOf(list.map(([tick, value]) => ({ tick, value }))),
  low: 0,
  high: 127,
  resting: restingRaw(lane),
});

/** The lane after hand edits, as a step makes it. */
export function after(edits: CurveEdit[], list = SIX): [number, number][] {
  const events = writeLanes(noEvents, [{ lane: 'cc11', channel: 0, points: handOf(list).points }]);
  const step = createStep('edits', { curves: edits });
  const result = applyStep({ notes: noteTableOf([]), events }, step, context).events;
  const { tick, value } = readLane(result, 'cc11', 0);
  return Array.from(tick, (at, row) => [at, value[row]]);
}
