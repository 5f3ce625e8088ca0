import { isByHand } from './edits';
import type { Step } from './registry';

/** The steps of a part that mean something in another: no hand edits, and none for notes selected by hand. */
export function portableSteps(steps: readonly Step[]): Step[] {
  return steps.filter((step) => !isByHand(step) && !step.where.notes);
}
