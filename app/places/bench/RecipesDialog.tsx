import { BUILT_IN_RECIPES, kindOf, parseRecipe, recipeSchema, sentenceOf, type Recipe } from '@ordle/core';
import { useEffect, useRef, useState } from 'react';
import { toast } from 'sonner';
import { z } from 'zod';
import { saveAs } from '@/places/export/saveAs';
import { useAppDispatch } from '@/state/store';
import { readMark, writeMark } from '@/storage/marks';
import { Button, Check, Dialog } from '@/ui';
import { applyRecipe } from './stepActions';
import type { BenchState } from './useBench';

const SAVED = 'recipes';

/** Saves the list of steps of the part, applies saved ones to any parts, and takes recipes in and out as files. */
export function RecipesDialog({
  bench,
  open,
  onClose,
}: {
  bench: BenchState;
  open: boolean;
  onClose(): void;
}) {
  const dispatch = useAppDispatch();
  const { session, part, mayWrite } = bench;
  const [saved, setSaved] = useState<Recipe[]>([]);
  const [name, setName] = useState('');
  const [targets, setTargets] = useState<ReadonlySet<string> | null>(null);
  const picker = useRef<HTMLInputElement>(null);
  useEffect(() => {
    void readMark(SAVED).then((value) => {
      const parsed = z.array(recipeSchema).safeParse(value);
      if (parsed.success) setSaved(parsed.data);
    });
  }, []);
  if (!part) return null;
  const chosen = targets ?? new Set([part.id]);
  const keep = (list: Recipe[]) => {
    setSaved(list);
    void writeMark(SAVED, list);
  };
  const add = (recipe: Recipe) => keep([...saved.filter((other) => other.name !== recipe.name), recipe]);

  const take = async (files: FileList | null) => {
    for (const file of files ?? []) {
      try {
        const recipe = parseRecipe(await file.text());
        add({ ...recipe, name: recipe.name || file.name.replace(/\.json$/i, '') });
        toast(`${file.name} is in.`);
      } catch (error) {
        toast(`${file.name}: ${sentenceOf(error)}`, { duration: 10000 });
      }
    }
  };
  const apply = (recipe: Recipe) => {
    applyRecipe(
      dispatch,
      recipe.name,
      recipe.steps,
      session.parts.filter(({ id }) => chosen.has(id)).map(({ id }) => id),
    );
    onClose();
  };
  const row = (recipe: Recipe, own: boolean) => (
    <li key={recipe.name} className="flex items-center gap-2 border-b border-rule py-1">
      <span className="min-w-0 grow">
        <span className="block truncate font-semibold">{recipe.name}</span>
        <span className="block truncate text-quiet text-ink-2">
          {recipe.steps
            .map((step) => `${kindOf(step.kind).title} ${kindOf(step.kind).describe(step)}`)
            .join(' · ')}
        </span>
      </span>
      <Button
        disabled={!mayWrite || chosen.size === 0}
        aria-label={`Apply ${recipe.name}`}
        onClick={() => apply(recipe)}
      >
        Apply
      </Button>
      <Button
        look="quiet"
        className="px-1.5"
        aria-label={`Export ${recipe.name}`}
        onClick={() =>
          saveAs(
            `${recipe.name.replace(/[\\/:*?"<>|]+/g, '-')}.json`,
            new TextEncoder().encode(`${JSON.stringify(recipe, null, 2)}\n`),
            'application/json',
          )
        }
      >
        Export
      </Button>
      {own && (
        <Button
          look="quiet"
          className="px-1.5"
          aria-label={`Forget ${recipe.name}`}
          onClick={() => keep(saved.filter((other) => other !== recipe))}
        >
          Forget
        </Button>
      )}
    </li>
  );

  return (
    <Dialog
      open={open}
      onClose={onClose}
      title="Recipes"
      description="Lists of steps, kept for all sessions. The same files work on the command line."
    >
      <form
        className="flex gap-2"
        onSubmit={(event) => {
          event.preventDefault();
          if (!name.trim()) return;
          // Hand edits speak of single notes of this part; they mean nothing elsewhere.
          const steps = part.steps
            .map(({ step }) => step)
            .filter(({ kind, where }) => kind !== 'edits' && !where.notes);
          add({ ordle: 'recipe', version: 1, name: name.trim(), steps });
          setName('');
        }}
      >
        <input
          aria-label="Name of the recipe"
          placeholder={`Save the steps of ${part.name} as`}
          value={name}
          onChange={(event) => setName(event.target.value)}
          className="grow border border-rule-strong bg-transparent px-2 py-1"
        />
        <Button type="submit" disabled={!name.trim() || part.steps.length === 0}>
          Save
        </Button>
        <Button onClick={() => picker.current?.click()}>Import</Button>
        <input
          ref={picker}
          type="file"
          hidden
          multiple
          accept=".json,application/json"
          aria-label="Recipes to import"
          onChange={(event) => {
            void take(event.target.files);
            event.target.value = '';
          }}
        />
      </form>
      <fieldset className="flex flex-wrap gap-x-4 gap-y-1">
        <legend className="mb-1 text-ink-2">Apply to</legend>
        {session.parts.map(({ id, name: title }) => (
          <Check
            key={id}
            checked={chosen.has(id)}
            onChange={(on) => {
              const next = new Set(chosen);
              if (on) next.add(id);
              else next.delete(id);
              setTargets(next);
            }}
          >
            {title}
          </Check>
        ))}
      </fieldset>
      <ul aria-label="Recipes" className="min-h-24 overflow-y-auto">
        {saved.map((recipe) => row(recipe, true))}
        {BUILT_IN_RECIPES.map((recipe) => row(recipe, false))}
      </ul>
    </Dialog>
  );
}
