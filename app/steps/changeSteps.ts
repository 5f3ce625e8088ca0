import { itemOf, type Part, type Session } from '@ordle/core';
import { edit } from '@/state/sessionSlice';
import type { AppDispatch } from '@/state/store';

/** A part's steps in the draft of an edit; steps of no part where it is gone. */
export function stepsOf(draft: Session, partId: string): Part['steps'] {
  return itemOf(draft.parts, partId)?.steps ?? { order: [], byId: {} };
}

/** Changes settings of several steps as one action. A setting given as undefined is left out. */
export function changeSteps(
  dispatch: AppDispatch,
  targets: readonly { partId: string; stepId: string }[],
  label: string,
  settings: object,
  gesture: string | null = null,
) {
  dispatch(
    edit(
      targets.length > 1 ? `${label}, ${targets.length} parts` : label,
      (draft) => {
        for (const { partId, stepId } of targets) {
          const step = itemOf(stepsOf(draft, partId), stepId)?.step;
          if (!step) continue;
          Object.assign(step, structuredClone(settings));
          for (const [key, value] of Object.entries(settings))
            if (value === undefined) Reflect.deleteProperty(step, key);
        }
      },
      gesture,
    ),
  );
}

/** Changes settings of a step; `label` says what, as the person would. A setting given as undefined is left out. */
export function changeStep(
  dispatch: AppDispatch,
  partId: string,
  stepId: string,
  label: string,
  settings: object,
  gesture: string | null = null,
) {
  changeSteps(dispatch, [{ partId, stepId }], label, settings, gesture);
}
