import { createMusicalBars, musicalPlaces, sentenceOf } from '@ordle/core';
import { useState, type RefObject } from 'react';
import { toast } from 'sonner';
import { useCommands } from '@/commands';
import { firstOf, putOnBar } from '@/edits/timeActions';
import { engine } from '@/engine/engineClient';
import type { RollEditor } from '@/editor';
import { selectionStore, useSelection } from '@/state/selection';
import { partViewStore, usePartViewValue } from '@/music/partViewStore';
import { useSectionCommands } from '@/panels/sections/useSectionCommands';
import { useAppDispatch } from '@/state/store';
import { panelChanged } from '@/state/viewSlice';
import { Announcer } from './Announcer';
import { DeleteControllersDialog } from '@/panels/lanes/DeleteControllersDialog';
import { isWhyTold, tellWhy } from '@/panels/notes/whyStore';
import { QuestionDialog } from '@/panels/roll/QuestionDialog';
import { RecipesDialog } from '@/panels/line/RecipesDialog';
import { commandOfRecipe, useRecipes } from '@/steps/recipeStore';
import { selectedForSteps } from '@/steps/selectedNotes';
import { applyRecipe } from '@/steps/stepActions';
import { useOpenBench, type BenchState } from '@/music/useBench';
import { useClipboard } from '@/edits/useClipboard';
import { useNoteCommands } from '@/edits/useNoteCommands';
import type { usePlayback } from '@/playback/usePlayback';
import { useViewCommands } from './useViewCommands';

interface BenchCommandsProps {
  playback: ReturnType<typeof usePlayback>;
  editor: RefObject<RollEditor | null>;
}

/**
 * What can be done on the Bench by key or from the palette, with the dialogs that open from it. Apart from what is
 * seen, so that a new view or another selection of notes, which commands depend on, does not render all of the Bench
 * again.
 */
export function BenchCommands({ playback, editor }: BenchCommandsProps) {
  const bench = useOpenBench();
  const dispatch = useAppDispatch();
  const { part } = bench;
  const [asking, setAsking] = useState(false);
  const [deleting, setDeleting] = useState(false);
  const [recipes, setRecipes] = useState(false);
  useViewCommands(bench, playback);
  useNoteCommands(bench, editor);
  useClipboard(bench);
  const endTick = usePartViewValue(part?.id, (view) => view.endTick) ?? 0;
  useSectionCommands(endTick, ({ bars: [from, to] }) => {
    const { view } = partViewStore.get();
    if (!view || view.partId !== part?.id) return;
    const barOf = createMusicalBars(bench.timeline);
    const bars = Array.from(musicalPlaces(view.notes.start, bench.timeline), barOf);
    const ids = [...view.notes.id].filter((_, row) => bars[row] >= from && bars[row] < to);
    selectionStore.select(view.partId, ids);
  });
  const recipeCommands = useRecipeCommands(bench);
  const selection = useSelection();
  const focus = selection.partId === part?.id ? (selection.focus ?? [...selection.ids][0] ?? null) : null;
  const toggleWhy = () => {
    // It is told in the settings' panel, which comes forth for it.
    if (!isWhyTold() && bench.view.panels.settings.folded)
      dispatch(panelChanged('settings', { folded: false }));
    tellWhy(!isWhyTold());
  };
  const noteToBar = (partId: string | null) => {
    const { view } = partViewStore.get();
    const row = view && view.partId === part?.id && focus !== null ? view.notes.id.indexOf(focus) : -1;
    if (!view || row < 0) return;
    const at = view.notes.start[row];
    engine.spans({ session: bench.session }).then(
      (spans) => {
        const first = firstOf(spans, partId === null ? bench.session.parts.order : [partId]) ?? at;
        putOnBar(dispatch, { at, first, partId });
      },
      (reason: unknown) => toast.error(sentenceOf(reason)),
    );
  };
  const mayPut = focus !== null && part && bench.mayWrite;
  useCommands({
    'note-to-bar': mayPut ? () => noteToBar(null) : undefined,
    'note-to-bar-alone': mayPut ? () => noteToBar(part.id) : undefined,
    'select-question': () => setAsking(true),
    'delete-controllers': bench.mayWrite ? () => setDeleting(true) : undefined,
    recipes: () => setRecipes(true),
    ...recipeCommands,
    why: focus === null && !isWhyTold() ? undefined : () => toggleWhy(),
  });
  return (
    <>
      <Announcer />
      <RecipesDialog open={recipes} onClose={() => setRecipes(false)} />
      {deleting && <DeleteControllersDialog onClose={() => setDeleting(false)} />}
      <QuestionDialog open={asking} onClose={() => setAsking(false)} />
    </>
  );
}

/** Every recipe as a command: applied to the active part and those selected together. */
function useRecipeCommands({ part, together, mayWrite }: BenchState): Record<string, () => void> {
  const dispatch = useAppDispatch();
  const { all } = useRecipes();
  if (!part || !mayWrite) return {};
  const parts = [part, ...together].map(({ id }) => id);
  return Object.fromEntries(
    all.map(({ name, steps }) => [
      commandOfRecipe(name),
      () => applyRecipe(dispatch, name, steps, parts, selectedForSteps(part)),
    ]),
  );
}
