import {
  isTranspose,
  createStep,
  insertItems,
  intervalInWords,
  itemOf,
  listOf,
  stepWithin,
  type NamedSection,
  type Recipe,
  type Session,
} from '@ordle/core';
import { edit, selectDocument } from '@/state/sessionSlice';
import { store, type AppDispatch } from '@/state/store';
import { counted } from '@/words/counts';
import { stepsOf } from './changeSteps';

const isSame = (one: readonly number[] | undefined, other: readonly number[]) =>
  one !== undefined && one[0] === other[0] && one[1] === other[1];

/** The last step of a part, where it transposes just these bars by semitones and nothing else. */
function lastTranspose(session: Session, partId: string, bars: readonly number[]) {
  const last = listOf(itemOf(session.parts, partId)?.steps ?? { order: [], byId: {} }).at(-1);
  return last && isTranspose(last.step) && last.step.on && isSame(last.step.where.bars, bars) ? last : null;
}

/**
 * Transposes a section of some parts: in the step that did so before, if it is the last of the line, else in a new
 * one. Drums stay.
 */
export function transposeSection(
  dispatch: AppDispatch,
  { name, bars }: NamedSection,
  partIds: readonly string[],
  semitones: number,
) {
  const session = selectDocument(store.getState());
  if (!session || semitones === 0) return;
  const pitched = partIds.filter((id) => itemOf(session.parts, id)?.sound.drums === false);
  dispatch(
    edit(
      `Transpose ${name} by ${intervalInWords(semitones)}, ${counted(pitched.length, 'part')}`,
      (draft) => {
        for (const partId of pitched) {
          const there = lastTranspose(session, partId, bars);
          const step = there && itemOf(stepsOf(draft, partId), there.id)?.step;
          if (step && isTranspose(step))
            step.semitones = Math.max(-127, Math.min(127, step.semitones + semitones));
          else
            insertItems(stepsOf(draft, partId), [
              {
                id: crypto.randomUUID(),
                step: createStep('transpose', { semitones, where: { bars: [...bars] } }),
              },
            ]);
        }
      },
    ),
  );
}

/**
 * Adds the steps of a recipe to some parts, held to a section. Gives how many of its steps could not be held to bars.
 */
export function applyRecipeToSection(
  dispatch: AppDispatch,
  { name, bars }: NamedSection,
  recipe: Recipe,
  partIds: readonly string[],
): number {
  const steps = recipe.steps.flatMap((step) => stepWithin(step, bars) ?? []);
  if (steps.length > 0)
    dispatch(
      edit(`Apply ${recipe.name || 'recipe'} to ${name}, ${counted(partIds.length, 'part')}`, (draft) => {
        for (const id of partIds)
          insertItems(
            stepsOf(draft, id),
            steps.map((step) => ({ id: crypto.randomUUID(), step: structuredClone(step) })),
          );
      }),
    );
  return recipe.steps.length - steps.length;
}
