import { BUILT_IN_RECIPES, recipeSchema, type Recipe } from '@ordle/core';
import { useEffect } from 'react';
import { z } from 'zod';
import { setExtraCommands, setKeys } from '@/commands';
import { readPreference, writePreference } from '@/storage/preferences';
import { createSmallStore } from '@/ui/smallStore';

const SAVED = 'recipes';

/**
 * The person's recipes, kept in this browser for all sessions, in the order they were saved; null until they are
 * read.
 */
const saved = createSmallStore<readonly Recipe[] | null>(null);
const NONE: readonly Recipe[] = [];

/** A recipe as a command, so that it can have keys and be found. */
export const commandOfRecipe = (name: string): `recipe:${string}` => `recipe:${name}`;

function set(recipes: readonly Recipe[]) {
  setExtraCommands(
    allRecipes(recipes).map(({ name }) => ({
      id: commandOfRecipe(name),
      scope: 'bench' as const,
      group: 'Recipes',
      title: `Apply ${name}`,
      keys: [],
    })),
  );
  saved.set(recipes);
}

/** Saved ones first; a saved one hides a built-in of its name. */
const allRecipes = (recipes: readonly Recipe[]): Recipe[] => [
  ...recipes,
  ...BUILT_IN_RECIPES.filter(({ name }) => !recipes.some((own) => own.name === name)),
];

export const recipeStore = {
  /** Saves a recipe, in place of one of the same name. */
  add(recipe: Recipe) {
    set([...(saved.get() ?? []).filter(({ name }) => name !== recipe.name), recipe]);
    void writePreference(SAVED, saved.get());
  },
  /** Forgets a recipe and its keys. */
  forget(name: string) {
    setKeys(commandOfRecipe(name), null);
    set((saved.get() ?? []).filter((recipe) => recipe.name !== name));
    void writePreference(SAVED, saved.get());
  },
};

/** The saved recipes, and all there are with the built-in ones. */
export function useRecipes(): { saved: readonly Recipe[]; all: Recipe[] } {
  const own = saved.useValue() ?? NONE;
  useEffect(() => {
    if (saved.get() !== null) return;
    void readPreference(SAVED).then((value) => {
      const parsed = z.array(recipeSchema).safeParse(value);
      if (saved.get() === null) set(parsed.success ? parsed.data : []);
    });
  }, []);
  return { saved: own, all: allRecipes(own) };
}
