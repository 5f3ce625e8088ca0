import { createStep, type CurveStep, type PedalStep } from '@ordle/core';

/**
 * The settings that make a step do another of its operations: those of the new one at their defaults, those of the
 * old one gone; what both share stays.
 */
export function turnedTo(step: CurveStep | PedalStep, op: string): Record<string, unknown> {
  // Velocities are driven by marks only.
  const lane = step.lane === 'velocity' ? {} : { lane: step.lane };
  const shared = { op, ...lane, where: step.where, on: step.on };
  const fresh =
    step.kind === 'curve'
      ? createStep('curve', shared as Partial<CurveStep>)
      : createStep('pedal', shared as Partial<PedalStep>);
  const gone = Object.fromEntries(Object.keys(step).map((key) => [key, undefined]));
  return { ...gone, ...fresh };
}
