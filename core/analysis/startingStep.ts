import { createStep, kindOf, type StartingPoint, type Step, type Where } from '../steps';

/** A new step of a kind with settings to start from, chosen from what is in the part; a person goes on from there. */
export function startingStep(
  kind: Step['kind'],
  point: Omit<StartingPoint, 'isForAll'>,
  where: Where = {},
): Step {
  const { start, partWide } = kindOf(kind);
  const isForAll = Object.keys(where).length === 0;
  return createStep(kind, { ...start?.({ ...point, isForAll }), ...(!partWide && { where }) });
}
