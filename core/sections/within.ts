import { isByHand, kindOf, type Step } from '../steps';

/**
 * A step held to some bars, from the first up to, not including, the second; null where nothing of it is left, or it
 * speaks of the whole part or of single notes.
 */
export function stepWithin<S extends Step>(step: S, [from, to]: readonly [number, number]): S | null {
  if (kindOf(step.kind).partWide || isByHand(step) || step.where.notes) return null;
  const own = step.where.bars ?? [from, to];
  const bars: [number, number] = [Math.max(from, own[0]), Math.min(to, own[1])];
  return bars[0] < bars[1] ? { ...step, where: { ...step.where, bars } } : null;
}
