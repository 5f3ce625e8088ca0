import { idleSteps, kindOf, parseRecipe, sentenceOf, type Recipe } from '@ordle/core';
import { useState } from 'react';
import { toast } from 'sonner';
import { pickFile } from '@/files/pickFile';
import { recipeStore, useRecipes } from '@/steps/recipeStore';
import type { ManyCleaning } from '@/storage/manyFiles';
import { Button, Segmented, Select } from '@/ui';

type How = 'suggested' | 'recipe' | 'both';

/** What is chosen to be done; `cleaning` is null as long as a recipe is still to be chosen. */
export interface ChosenCleaning {
  how: How;
  name: string | null;
  cleaning: ManyCleaning | null;
}

/** What is done to each of many things: what is suggested for it, a recipe, or that and then the recipe. */
export function useHowToClean(first: ManyCleaning | null) {
  const { all } = useRecipes();
  const [chosen, setChosen] = useState<{ how: How; name: string | null } | null>(null);
  const before = first && {
    how: (first.recipe === null ? 'suggested' : first.suggested ? 'both' : 'recipe') as How,
    name: first.recipe,
  };
  const { how, name } = chosen ?? before ?? { how: 'suggested' as How, name: null };
  const recipe = all.find((each) => each.name === name) ?? null;
  const cleaning: ManyCleaning | null =
    how === 'suggested'
      ? { suggested: true, steps: [], recipe: null }
      : recipe && { suggested: how === 'both', steps: recipe.steps, recipe: recipe.name };
  return { how, name, recipe, cleaning, all, choose: setChosen };
}

export type HowToCleanState = ReturnType<typeof useHowToClean>;

export function HowToClean({ state, disabled }: { state: HowToCleanState; disabled: boolean }) {
  const { how, recipe, all, choose } = state;
  const take = async (file: File) => {
    try {
      const read = parseRecipe(await file.text());
      const name = read.name || file.name.replace(/\.json$/i, '');
      recipeStore.add({ ...read, name });
      choose({ how: how === 'suggested' ? 'recipe' : how, name });
    } catch (error) {
      toast(`${file.name}: ${sentenceOf(error)}`, { duration: 10000 });
    }
  };
  return (
    <div className="flex flex-col gap-1.5">
      <div className="flex flex-wrap items-center gap-x-3 gap-y-1.5">
        <div className="w-full max-w-xl">
          <Segmented
            label="What is done"
            value={how}
            disabled={disabled}
            options={[
              { value: 'suggested', label: 'suggested for each' },
              { value: 'recipe', label: 'a recipe' },
              { value: 'both', label: 'both' },
            ]}
            onChange={(next) => choose({ how: next, name: recipe?.name ?? all[0]?.name ?? null })}
          />
        </div>
        {how !== 'suggested' && (
          <>
            <Select
              label="Recipe"
              value={recipe?.name ?? ''}
              disabled={disabled}
              onChange={(name) => choose({ how, name })}
            >
              {!recipe && <option value="">choose one</option>}
              {all.map(({ name }) => (
                <option key={name} value={name}>
                  {name}
                </option>
              ))}
            </Select>
            <Button
              look="quiet"
              disabled={disabled}
              onClick={() => pickFile('.json', (file) => void take(file))}
            >
              Recipe from a file
            </Button>
          </>
        )}
      </div>
      <p className="text-quiet text-ink-2">{inWords(how, recipe)}</p>
    </div>
  );
}

function inWords(how: How, recipe: Recipe | null): string {
  const each =
    'Each is looked at by itself: how it was recorded, how late and uneven each part is, and what would mend that.';
  if (how === 'suggested') return each;
  if (!recipe) return 'Choose the recipe.';
  const steps = recipe.steps.map((step) => `${kindOf(step.kind).title} ${kindOf(step.kind).describe(step)}`);
  return [
    ...(how === 'both' ? [each, 'Then, on every part:'] : ['On every part:']),
    `${steps.join(' · ')}.`,
    ...idleSteps(recipe.steps),
  ].join(' ');
}
