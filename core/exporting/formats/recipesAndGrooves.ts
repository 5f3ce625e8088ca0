import { strToU8 } from 'fflate';
import { z } from 'zod';
import { listOf } from '../../session';
import { portableSteps, takeGroove } from '../../steps';
import { NOTE_VALUE_PATTERN } from '../../time';
import type { Recipe } from '../../formats';
import type { FormatKind } from '../formatKind';

const json = (value: unknown): Uint8Array => strToU8(`${JSON.stringify(value, null, 2)}\n`);

export const recipeOptions = z.strictObject({});
export type RecipeOptions = z.infer<typeof recipeOptions>;

/** The steps of each part as a recipe. */
export const recipes: FormatKind<RecipeOptions> = {
  id: 'recipe',
  title: 'Recipes',
  tells: 'the steps of each part, to use again',
  options: recipeOptions,
  isCut: false,
  cannotHold: () => ['Hand edits, and steps for notes that were selected by hand, are not in a recipe.'],
  files: ({ chosen }) =>
    chosen.parts.flatMap(({ part }) => {
      const steps = portableSteps(listOf(part.steps).map(({ step }) => step));
      if (steps.length === 0) return [];
      const recipe: Recipe = { ordle: 'recipe', version: 1, name: part.name, steps };
      return [
        {
          part: part.name,
          what: 'recipe',
          extension: 'json',
          words: steps.length === 1 ? '1 step' : `${steps.length} steps`,
          *chunks() {
            yield json(recipe);
          },
        },
      ];
    }),
};

export const grooveOptions = z.strictObject({
  /** The lines it is told by, and after how many quarters it begins anew. */
  grid: z.string().regex(NOTE_VALUE_PATTERN, 'must be a note value, as 1/16').default('1/16'),
  beats: z.int().min(1).max(64).default(4),
});
export type GrooveOptions = z.infer<typeof grooveOptions>;

/** The timing and the accents of each part as a groove. */
export const grooves: FormatKind<GrooveOptions> = {
  id: 'groove',
  title: 'Grooves',
  tells: 'timing and accents of each part',
  options: grooveOptions,
  isCut: true,
  cannotHold: () => ['Repetitions are averaged: it holds how the part is played, not its notes.'],
  files: ({ chosen }, { grid, beats }) =>
    chosen.parts.flatMap(({ part, material }) =>
      material.notes.length === 0
        ? []
        : [
            {
              part: part.name,
              what: 'groove',
              extension: 'json',
              words: `lines of ${grid}, ${beats} beats`,
              *chunks() {
                const name = `groove of ${part.name}`;
                yield json(takeGroove(material.notes, name, grid, beats, chosen.timeline).groove);
              },
            },
          ],
    ),
};
