import { createStep, kindOf, type NoteValue, type Part, type Session, type Step } from '@ordle/core';
import { edit } from '@/state/sessionSlice';
import type { AppDispatch } from '@/state/store';
import { stoodAt } from '@/state/viewSlice';

/** A part's steps in the draft of an edit. */
function stepsOf(draft: Session, partId: string) {
  return draft.parts.find(({ id }) => id === partId)?.steps ?? [];
}

/** A new step with useful starting settings. */
function startingStep(part: Part, kind: Step['kind'], grid: NoteValue, where: Step['where']): Step {
  switch (kind) {
    // Full strength on every note would flatten a played chord; editors start below it (common practice: 75 to 85 %).
    case 'quantize':
      return createStep('quantize', {
        where,
        grid,
        strength: 80,
        chords: part.sound.drums ? 'each' : 'spread',
      });
    // Skilled players' timing varies by some 10 to 20 ms (from memory); half of that is felt and not yet heard as loose.
    case 'humanize':
      return createStep('humanize', { where, timingMs: 6, velocity: 4, drift: 50 });
    case 'groove':
      return createStep('groove', { where, straighten: 100, timing: 100 });
    default:
      return createStep(kind, { where });
  }
}

/** Adds a step after the stop stood at and stands there. Starting settings fit what the part is. */
export function addStep(
  dispatch: AppDispatch,
  part: Part,
  kind: Step['kind'],
  grid: NoteValue,
  after: number,
  notes?: readonly number[],
) {
  const id = crypto.randomUUID();
  const where = notes ? { notes: [...notes] } : {};
  // Full strength on every note would flatten a played chord; editors start below it (common practice: 75 to 85 %).
  const step = startingStep(part, kind, grid, where);
  dispatch(
    edit(`Add ${kindOf(kind).title.toLowerCase()} to ${notes ? 'the chosen notes' : part.name}`, (draft) => {
      stepsOf(draft, part.id).splice(after, 0, { id, step });
    }),
  );
  dispatch(stoodAt({ partId: part.id, stop: id }));
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
  dispatch(
    edit(
      label,
      (draft) => {
        const step = stepsOf(draft, partId).find(({ id }) => id === stepId)?.step;
        if (!step) return;
        Object.assign(step, settings);
        for (const [key, value] of Object.entries(settings))
          if (value === undefined) Reflect.deleteProperty(step, key);
      },
      gesture,
    ),
  );
}

export function switchStep(dispatch: AppDispatch, part: Part, stepId: string) {
  const step = part.steps.find(({ id }) => id === stepId)?.step;
  if (!step) return;
  const title = kindOf(step.kind).title.toLowerCase();
  changeStep(dispatch, part.id, stepId, `Switch ${title} ${step.on ? 'off' : 'on'}`, { on: !step.on });
}

export function removeStep(dispatch: AppDispatch, part: Part, stepId: string) {
  const at = part.steps.findIndex(({ id }) => id === stepId);
  if (at < 0) return;
  const title = kindOf(part.steps[at].step.kind).title.toLowerCase();
  dispatch(edit(`Remove ${title} from ${part.name}`, (draft) => void stepsOf(draft, part.id).splice(at, 1)));
  dispatch(stoodAt({ partId: part.id, stop: part.steps[at - 1]?.id ?? 'cleaned' }));
}

/** Moves a step to another place in the line. */
export function moveStep(dispatch: AppDispatch, part: Part, stepId: string, to: number) {
  const from = part.steps.findIndex(({ id }) => id === stepId);
  const place = Math.min(part.steps.length - 1, Math.max(0, to));
  if (from < 0 || from === place) return;
  const title = kindOf(part.steps[from].step.kind).title.toLowerCase();
  dispatch(
    edit(`Move ${title} ${place < from ? 'earlier' : 'later'}`, (draft) => {
      const steps = stepsOf(draft, part.id);
      const [moved] = steps.splice(from, 1);
      steps.splice(place, 0, moved);
    }),
  );
}

/** Adds copies of steps to the end of some parts' lines, as one action. */
export function applyRecipe(
  dispatch: AppDispatch,
  name: string,
  steps: readonly Step[],
  partIds: readonly string[],
) {
  const words = partIds.length === 1 ? '1 part' : `${partIds.length} parts`;
  dispatch(
    edit(`Apply ${name || 'recipe'} to ${words}`, (draft) => {
      for (const id of partIds) {
        stepsOf(draft, id).push(
          ...steps.map((step) => ({ id: crypto.randomUUID(), step: structuredClone(step) })),
        );
      }
    }),
  );
}
