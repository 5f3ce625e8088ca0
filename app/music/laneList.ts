import { itemOf, kindOf } from '@ordle/core';
import type { Step } from '@ordle/core';
import type { View } from '@/state/viewSlice';
import type { BenchState } from '@/music/useBench';

/**
 * A lane under the editor. One that only comes with the current step goes with it, unless it is given a height of its
 * own.
 */
export type ShownLane = View['lanes'][number] & { withStep: boolean };

export const LANE_HEIGHT = 96;

/** The current step, or null at as played and cleaned. */
export function currentStepOf({ part, stop }: Pick<BenchState, 'part' | 'stop'>): Step | null {
  return (part && itemOf(part.steps, stop?.id))?.step ?? null;
}

/** Lanes a step shapes: those it reads and those it writes. */
function lanesOfStep(step: Step | null): string[] {
  return step?.on ? (kindOf(step.kind).lanes?.(step) ?? []) : [];
}

/** The lanes that are open, and after them those of the current step, so that what it does is seen. */
export function lanesShown(bench: BenchState): ShownLane[] {
  const open = bench.view.lanes.map((lane) => ({ ...lane, withStep: false }));
  const more = lanesOfStep(currentStepOf(bench)).filter((lane) => !open.some((each) => each.lane === lane));
  return [
    ...open,
    ...[...new Set(more)].map((lane) => ({ lane, height: LANE_HEIGHT, folded: false, withStep: true })),
  ];
}
