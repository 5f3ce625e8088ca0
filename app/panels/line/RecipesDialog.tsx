import {
  listOf,
  describeWhere,
  kindOf,
  parseRecipe,
  portableSteps,
  sentenceOf,
  type Recipe,
} from '@ordle/core';
import { useRef, useState } from 'react';
import { toast } from 'sonner';
import { KeyButton, KeyConflictNote, type KeyConflict } from '@/commands';
import { saveAs } from '@/files/saveAs';
import { useSelection } from '@/state/selection';
import { useAppDispatch } from '@/state/store';
import { Button, Check, Dialog } from '@/ui';
import { commandOfRecipe, recipeStore, useRecipes } from '@/steps/recipeStore';
import { onlyInWords, selectedForSteps } from '@/steps/selectedNotes';
import { applyRecipe } from '@/steps/stepActions';
import { useOpenBench } from '@/music/useBench';

interface RecipesDialogProps {
  open: boolean;
  onClose(): void;
}

/** Saves steps of the part, applies saved ones to any parts, gives them keys, and takes recipes in and out as files. */
export function RecipesDialog({ open, onClose }: RecipesDialogProps) {
  const bench = useOpenBench();
  const dispatch = useAppDispatch();
  const { session, part, together, mayWrite } = bench;
  const { saved, all } = useRecipes();
  const [targets, setTargets] = useState<ReadonlySet<string> | null>(null);
  const [conflict, setConflict] = useState<KeyConflict | null>(null);
  const selection = useSelection();
  const [isWhole, setWhole] = useState(false);
  if (!part) return null;
  const selected = selectedForSteps(part, selection);
  const applied = targets ?? new Set([part.id, ...together.map(({ id }) => id)]);
  const apply = (recipe: Recipe) => {
    const parts = listOf(session.parts)
      .filter(({ id }) => applied.has(id))
      .map(({ id }) => id);
    applyRecipe(dispatch, recipe.name, recipe.steps, parts, isWhole ? undefined : selected);
    onClose();
  };
  return (
    <Dialog
      open={open}
      onClose={onClose}
      title="Recipes"
      description="Saved step lists, for every session. The same files work on the command line."
    >
      <SaveForm key={part.id} />
      {selected.size > 0 && (
        <Check checked={!isWhole} onChange={(on) => setWhole(!on)}>
          only to {onlyInWords(selected)}
        </Check>
      )}
      <fieldset
        disabled={selected.size > 0 && !isWhole}
        className="flex flex-wrap gap-x-4 gap-y-1 disabled:hidden"
      >
        <legend className="mb-1 text-ink-2">Apply to</legend>
        {listOf(session.parts).map(({ id, name: title }) => (
          <Check
            key={id}
            checked={applied.has(id)}
            onChange={(on) => setTargets(withMember(applied, id, on))}
          >
            {title}
          </Check>
        ))}
      </fieldset>
      {conflict && <KeyConflictNote conflict={conflict} onSettled={() => setConflict(null)} />}
      <ul aria-label="Recipes" className="min-h-24 overflow-y-auto">
        {all.map((recipe) => (
          <RecipeRow
            key={recipe.name}
            recipe={recipe}
            own={saved.includes(recipe)}
            mayApply={mayWrite && applied.size > 0}
            onApply={() => apply(recipe)}
            onConflict={setConflict}
          />
        ))}
      </ul>
    </Dialog>
  );
}

function withMember<T>(set: ReadonlySet<T>, member: T, inside: boolean): Set<T> {
  const next = new Set(set);
  if (inside) next.add(member);
  else next.delete(member);
  return next;
}

/** Saves the steps of the part, or those that are ticked, under a name; and brings recipes in. */
function SaveForm() {
  const bench = useOpenBench();
  const [name, setName] = useState('');
  const [left, setLeft] = useState<ReadonlySet<string>>(new Set());
  const picker = useRef<HTMLInputElement>(null);
  const { part } = bench;
  if (!part) return null;
  const offered = listOf(part.steps).filter(({ step }) => portableSteps([step]).length > 0);
  const steps = offered.filter(({ id }) => !left.has(id)).map(({ step }) => step);
  const take = async (files: FileList | null) => {
    for (const file of files ?? []) {
      try {
        const recipe = parseRecipe(await file.text());
        recipeStore.add({ ...recipe, name: recipe.name || file.name.replace(/\.json$/i, '') });
        toast(`${file.name} was imported.`);
      } catch (error) {
        toast(`${file.name}: ${sentenceOf(error)}`, { duration: 10000 });
      }
    }
  };
  return (
    <form
      className="flex flex-col gap-1.5"
      onSubmit={(event) => {
        event.preventDefault();
        if (!name.trim() || steps.length === 0) return;
        recipeStore.add({ ordle: 'recipe', version: 1, name: name.trim(), steps });
        setName('');
      }}
    >
      <div className="flex gap-2">
        <input
          aria-label="Name of the recipe"
          placeholder={`Save the steps of ${part.name} as`}
          value={name}
          onChange={(event) => setName(event.target.value)}
          className="grow border border-rule-strong bg-transparent px-2 py-1"
        />
        <Button type="submit" disabled={!name.trim() || steps.length === 0}>
          Save
        </Button>
        <Button onClick={() => picker.current?.click()}>Import</Button>
      </div>
      {offered.length > 1 && (
        <fieldset className="flex max-h-24 flex-col overflow-y-auto">
          <legend className="sr-only">Steps to save</legend>
          {offered.map(({ id, step }) => (
            <Check key={id} checked={!left.has(id)} onChange={(on) => setLeft(withMember(left, id, !on))}>
              {kindOf(step.kind).title}
              <span className="text-quiet text-ink-2">
                , {kindOf(step.kind).describe(step)}, {describeWhere(step.where)}
              </span>
            </Check>
          ))}
        </fieldset>
      )}
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
  );
}

interface RecipeRowProps {
  recipe: Recipe;
  own: boolean;
  mayApply: boolean;
  onApply(): void;
  onConflict(conflict: KeyConflict): void;
}

function RecipeRow({ recipe, own, mayApply, onApply, onConflict }: RecipeRowProps) {
  const { name, steps } = recipe;
  return (
    <li className="flex items-center gap-2 border-b border-rule py-1">
      <span className="min-w-0 grow">
        <span className="block truncate font-semibold">{name}</span>
        <span className="block truncate text-quiet text-ink-2">
          {steps.map((step) => `${kindOf(step.kind).title} ${kindOf(step.kind).describe(step)}`).join(' · ')}
        </span>
      </span>
      <KeyButton id={commandOfRecipe(name)} title={`Apply ${name}`} onConflict={onConflict} />
      <Button disabled={!mayApply} aria-label={`Apply ${name}`} onClick={onApply}>
        Apply
      </Button>
      <Button
        look="quiet"
        className="px-1.5"
        aria-label={`Export ${name}`}
        onClick={() =>
          saveAs(
            `${name}.json`,
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
          aria-label={`Delete ${name}`}
          onClick={() => recipeStore.forget(name)}
        >
          Delete
        </Button>
      )}
    </li>
  );
}
