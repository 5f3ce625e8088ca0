import { secondsToTicks, sentenceOf } from '@ordle/core';
import { useCallback, useEffect, useRef, useState } from 'react';
import { toast } from 'sonner';
import { useCommands } from '@/commands';
import { isTyping } from '@/commands/runtime';
import type { RollEditor } from '@/editor';
import { useImport } from '@/shell/ImportProvider';
import { transport } from '@/sound/transport';
import { selectionStore, useSelection } from '@/state/selection';
import { useAppDispatch } from '@/state/store';
import { stoodAt, viewChanged, type View } from '@/state/viewSlice';
import { Button, Dialog } from '@/ui';
import { Announcer } from './Announcer';
import { EditorBar } from './EditorBar';
import { rulingGrid } from './gridInForce';
import { LineOfSteps } from './LineOfSteps';
import { NoteList } from './NoteList';
import { NoteStory } from './NoteStory';
import { useOtherViews } from './otherViews';
import { PartsList } from './PartsList';
import { partViewStore, usePartView } from './partViewStore';
import { QuestionDialog } from './QuestionDialog';
import { RecipesDialog } from './RecipesDialog';
import { Roll } from './Roll';
import { SettingsPanel } from './SettingsPanel';
import { commandOfRecipe, useRecipes } from './recipeStore';
import { addStep, applyRecipe, stretchNotes } from './stepActions';
import { stopsOf } from './stops';
import { TransportBar } from './TransportBar';
import { useBench, type BenchState } from './useBench';
import { useClipboard } from './useClipboard';
import { useNoteCommands } from './useNoteCommands';
import { usePlayback } from './usePlayback';
import { splitWhere } from './whereActions';

/** The heart: the line of steps, the editor, the settings and the transport. */
export function Bench() {
  const bench = useBench();
  if (!bench) return null;
  if (bench.session.parts.length === 0) return <NoParts />;
  return <BenchWithParts bench={bench} />;
}

function NoParts() {
  const { pickFiles } = useImport();
  return (
    <main className="flex grow flex-col items-center justify-center gap-3">
      <p>This session has no parts.</p>
      <Button look="main" onClick={pickFiles}>
        Bring in files
      </Button>
    </main>
  );
}

function BenchWithParts({ bench }: { bench: BenchState }) {
  const playback = usePlayback(bench);
  const editor = useRef<RollEditor | null>(null);
  const keepEditor = useCallback((made: RollEditor | null) => {
    editor.current = made;
  }, []);
  const { view } = usePartView();
  const { session, part, stop } = bench;
  const others = useOtherViews(bench);
  const [asking, setAsking] = useState(false);
  const [recipes, setRecipes] = useState(false);
  const [story, setStory] = useState<number | null>(null);
  useAskForView(bench);
  useViewCommands(bench, playback);
  useNoteCommands(bench, editor);
  useClipboard(bench);
  const recipeCommands = useRecipeCommands(bench);
  const selection = useSelection();
  const focus = selection.partId === part?.id ? (selection.focus ?? [...selection.ids][0] ?? null) : null;
  useCommands({
    'select-question': () => setAsking(true),
    recipes: () => setRecipes(true),
    ...recipeCommands,
    why: focus === null ? undefined : () => setStory(focus),
  });
  useEffect(
    () => () => {
      partViewStore.clear();
      selectionStore.clear();
    },
    [session.id],
  );
  if (!part || !stop) return null;
  const spreads = view?.partId === part.id ? view.spreads : [];
  return (
    <main className="flex min-w-0 grow flex-col">
      <LineOfSteps bench={bench} part={part} stop={stop} spreads={spreads} />
      <div className="flex min-h-0 grow">
        <PartsList bench={bench} />
        <div className="flex min-w-0 grow flex-col">
          <EditorBar bench={bench} />
          <Roll bench={bench} playing={playback.playing} others={others} onEditor={keepEditor} />
          {bench.view.list && <NoteList bench={bench} onReveal={(row) => editor.current?.reveal(row)} />}
        </div>
        <SettingsPanel bench={bench} />
      </div>
      <TransportBar bench={bench} playback={playback} />
      <Announcer bench={bench} />
      <RecipesDialog bench={bench} open={recipes} onClose={() => setRecipes(false)} />
      <QuestionDialog bench={bench} open={asking} onClose={() => setAsking(false)} />
      <Dialog open={story !== null} onClose={() => setStory(null)} title="Why is this note here?">
        {story !== null && <NoteStory bench={bench} id={story} />}
      </Dialog>
    </main>
  );
}

/** Every recipe as a command: applied to the active part and those chosen along. */
function useRecipeCommands({ part, together, mayWrite }: BenchState): Record<string, () => void> {
  const dispatch = useAppDispatch();
  const { all } = useRecipes();
  if (!part || !mayWrite) return {};
  const parts = [part, ...together].map(({ id }) => id);
  return Object.fromEntries(
    all.map(({ name, steps }) => [commandOfRecipe(name), () => applyRecipe(dispatch, name, steps, parts)]),
  );
}

/** Has the engine work out the stop stood at whenever anything it depends on changes. */
function useAskForView({ session, part, stop, view }: BenchState) {
  const stopId = stop?.id;
  const index = stop?.index ?? 0;
  const grid = rulingGrid(view);
  const gridKey = JSON.stringify(grid);
  // A part that is drawn to another changes with it.
  const heard = part?.steps.some(({ step }) => step.kind === 'align') ? session.parts : null;
  useEffect(() => {
    if (!part) return;
    partViewStore.ask({
      session,
      partId: part.id,
      stop: index,
      cleaned: stopId === 'cleaned',
      grid,
      details: view.list,
    });
    // Only what the answer depends on: other parts may change without asking again.
    // eslint-disable-next-line react-hooks/exhaustive-deps
  }, [
    part,
    heard,
    session.takes,
    session.tempos,
    session.meters,
    session.division,
    index,
    stopId,
    gridKey,
    view.list,
  ]);
}

/** Playing, looking and stepping by key. */
function useViewCommands(bench: BenchState, playback: ReturnType<typeof usePlayback>) {
  const dispatch = useAppDispatch();
  const selection = useSelection();
  const { session, view, part, together, stop, timeline, mayWrite } = bench;
  const { loop } = view;
  const chosenStep = part?.steps.find(({ id }) => id === stop?.id)?.step;
  const set = (change: Partial<View>) => dispatch(viewChanged(change));
  const walkStops = (by: number) => {
    if (!part || !stop) return;
    const stops = stopsOf(part);
    const at = stops.findIndex(({ id }) => id === stop.id);
    dispatch(stoodAt({ partId: part.id, stop: stops[Math.min(stops.length - 1, Math.max(0, at + by))].id }));
  };
  const after = stop?.id === 'cleaned' ? (part?.steps.length ?? 0) : (stop?.index ?? 0);
  const chosenIds = selection.partId === part?.id ? [...selection.ids] : [];
  const some = chosenIds.length > 0;
  // All notes chosen is the whole part, which goes on holding when notes are added.
  const stretched = () => (chosenIds.length === partViewStore.get().view?.notes.length ? [] : chosenIds);
  useCommands({
    play: () => void playback.toggle(),
    loop: loop.to > loop.from ? () => set({ loop: { ...loop, on: !loop.on } }) : undefined,
    click: () => set({ click: !view.click }),
    'to-start': () => transport.locate(0),
    follow: () => set({ follow: !view.follow }),
    'tool-select': () => set({ tool: 'select' }),
    'tool-draw': () => set({ tool: 'draw' }),
    'tool-erase': () => set({ tool: 'erase' }),
    snap: () => set({ snap: !view.snap }),
    'show-both': () => set({ show: 'both' }),
    'show-cleaned': () => set({ show: 'cleaned' }),
    'show-played': () => set({ show: 'played' }),
    time: () => set({ time: view.time === 'bars' ? 'seconds' : 'bars' }),
    'middle-c': () => set({ middleC: view.middleC === 4 ? 3 : 4 }),
    lane: () => set({ lane: !view.lane }),
    'note-list': () => set({ list: !view.list }),
    'next-stop': () => walkStops(1),
    'previous-stop': () => walkStops(-1),
    'add-quantize':
      mayWrite && part
        ? () => void addStep(dispatch, { session, part, together, after }, 'quantize')
        : undefined,
    double: mayWrite && part ? () => stretchNotes(dispatch, part, stop, 2, stretched()) : undefined,
    halve: mayWrite && part ? () => stretchNotes(dispatch, part, stop, 0.5, stretched()) : undefined,
    'split-where':
      mayWrite && part && chosenStep && chosenStep.kind !== 'edits'
        ? () => {
            try {
              const tick = secondsToTicks(timeline.tempo, transport.second());
              const endTick = partViewStore.get().view?.endTick ?? 0;
              splitWhere(dispatch, part, stop?.id ?? '', tick, endTick, timeline);
            } catch (error) {
              toast(sentenceOf(error));
            }
          }
        : undefined,
    'quantize-selection':
      mayWrite && part && some
        ? () => void addStep(dispatch, { session, part, together, after }, 'quantize', chosenIds)
        : undefined,
  });
  const { setHolding } = playback;
  useEffect(() => {
    const onKey = (event: KeyboardEvent) => {
      if (
        event.key.toLowerCase() !== 'b' ||
        isTyping(event) ||
        event.ctrlKey ||
        event.metaKey ||
        event.altKey ||
        event.shiftKey
      )
        return;
      setHolding(event.type === 'keydown');
    };
    const onBlur = () => setHolding(false);
    window.addEventListener('keydown', onKey);
    window.addEventListener('keyup', onKey);
    window.addEventListener('blur', onBlur);
    return () => {
      window.removeEventListener('keydown', onKey);
      window.removeEventListener('keyup', onKey);
      window.removeEventListener('blur', onBlur);
    };
  }, [setHolding]);
}
