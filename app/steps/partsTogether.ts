import { isByHand, orderedOf, insertItems, listOf, kindOf, type Part, type Step } from '@ordle/core';
import { edit } from '@/state/sessionSlice';
import type { AppDispatch } from '@/state/store';
import { stepsOf } from './changeSteps';

/** A step of a part, as one of several that are changed together. */
export interface StepTarget {
  partId: string;
  stepId: string;
  step: Step;
}

/**
 * The steps that go together with one of the active part, that one first: of every other part the step of the same
 * kind with the same number among its kind. Parts that have none are left out.
 */
export function stepsTogether(part: Part, stepId: string, others: readonly Part[]): StepTarget[] {
  const own = listOf(part.steps).find(({ id }) => id === stepId);
  if (!own) return [];
  const ofKind = ({ steps }: Part) => listOf(steps).filter(({ step }) => step.kind === own.step.kind);
  const number = ofKind(part).indexOf(own);
  const targets = [{ partId: part.id, stepId, step: own.step }];
  // Hand edits speak of single notes of their own part.
  if (isByHand(own.step)) return targets;
  for (const other of others) {
    const found = ofKind(other)[number];
    if (found) targets.push({ partId: other.id, stepId: found.id, step: found.step });
  }
  return targets;
}

/** Names of the settings in which some steps of one kind differ. */
export function mixedSettings(targets: readonly StepTarget[]): Set<string> {
  const names = new Set(targets.flatMap(({ step }) => Object.keys(step)));
  const valueOf = ({ step }: StepTarget, name: string) => JSON.stringify(step[name as keyof Step]);
  return new Set(
    [...names].filter((name) =>
      targets.some((target) => valueOf(target, name) !== valueOf(targets[0], name)),
    ),
  );
}

/** How steps copied to another part join those it has. */
export type Joining = 'add' | 'replace';

/** Copies steps to other parts as one action: after the steps they have, or instead of them. */
export function copySteps(
  dispatch: AppDispatch,
  steps: readonly Step[],
  parts: readonly Part[],
  joining: Joining,
) {
  const what = steps.length === 1 ? kindOf(steps[0].kind).title.toLowerCase() : `${steps.length} steps`;
  const where = parts.length === 1 ? parts[0].name : `${parts.length} parts`;
  dispatch(
    edit(`Copy ${what} to ${where}`, (draft) => {
      for (const { id } of parts) {
        const copies = steps.map((step) => ({ id: crypto.randomUUID(), step: structuredClone(step) }));
        const own = stepsOf(draft, id);
        if (joining === 'replace') Object.assign(own, orderedOf([]));
        insertItems(own, copies);
      }
    }),
  );
}
