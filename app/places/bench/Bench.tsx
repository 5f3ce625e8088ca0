import { partsHeard } from '@ordle/core';
import { useCallback, useEffect, useRef } from 'react';
import type { RollEditor } from '@/editor';
import { useImport } from '@/files/ImportProvider';
import { selectionStore } from '@/state/selection';
import { Button } from '@/ui';
import { BenchCommands } from './BenchCommands';
import { EditorBar } from '@/panels/roll/EditorBar';
import { rulingGrid } from '@/music/gridInForce';
import { LineOfSteps } from '@/panels/line/LineOfSteps';
import { Lanes } from '@/panels/lanes/Lanes';
import { NoteList } from '@/panels/notes/NoteList';
import { useOtherViews } from '@/music/otherViews';
import { PartsList } from '@/panels/parts/PartsList';
import { lanesShown } from '@/music/laneList';
import { useSame } from '@/ui/useSame';
import { partViewStore } from '@/music/partViewStore';
import { Roll } from '@/panels/roll/Roll';
import { SettingsPanel } from '@/panels/settings/SettingsPanel';
import { TransportBar } from '@/panels/transport/TransportBar';
import { useBench, useOpenBench, type BenchState } from '@/music/useBench';
import { usePlayback } from '@/playback/usePlayback';

/** The heart: the line of steps, the editor, the settings and the transport. */
export function Bench() {
  const bench = useBench();
  if (!bench) return null;
  if (bench.session.parts.order.length === 0) return <NoParts />;
  return <BenchWithParts />;
}

function NoParts() {
  const { pickFiles } = useImport();
  return (
    <main className="flex grow flex-col items-center justify-center gap-3">
      <p>This session has no parts.</p>
      <Button look="main" onClick={pickFiles}>
        Import files
      </Button>
    </main>
  );
}

function BenchWithParts() {
  const bench = useOpenBench();
  const playback = usePlayback(bench);
  const editor = useRef<RollEditor | null>(null);
  const keepEditor = useCallback((made: RollEditor | null) => {
    editor.current = made;
  }, []);
  const { session, part, stop } = bench;
  useOtherViews(bench);
  useAskForView(bench);
  useEffect(
    () => () => {
      partViewStore.clear();
    },
    [session.id],
  );
  // What is selected is still selected after a visit to another place; another session begins with nothing.
  useEffect(() => selectionStore.enter(session.id), [session.id]);
  if (!part || !stop) return null;
  return (
    <main className="flex min-w-0 grow flex-col">
      <LineOfSteps part={part} stop={stop} />
      <div className="flex min-h-0 grow">
        <PartsList />
        <div className="flex min-h-0 min-w-0 grow flex-col overflow-y-auto overflow-x-hidden">
          <EditorBar onReveal={(row) => editor.current?.reveal(row)} />
          <Roll playback={playback} onEditor={keepEditor} />
          <Lanes editor={editor} playing={playback.playing} />
          {bench.view.list && <NoteList onReveal={(row) => editor.current?.reveal(row)} />}
        </div>
        <SettingsPanel />
      </div>
      <TransportBar playback={playback} />
      <BenchCommands playback={playback} editor={editor} />
    </main>
  );
}

/** Has the engine work out the current stop whenever anything it depends on changes. */
function useAskForView(bench: BenchState) {
  const { session, part, stop, view } = bench;
  const stopId = stop?.id;
  const index = stop?.index ?? 0;
  const grid = rulingGrid(view);
  const gridKey = JSON.stringify(grid);
  const shownLanes = lanesShown(bench)
    .filter(({ folded }) => !folded)
    .map(({ lane }) => lane);
  const laneKey = shownLanes.join(' ');
  // A part that is pulled toward another changes with it.
  const heard = useSame(part ? partsHeard(part, session) : []);
  useEffect(() => {
    if (!part) return;
    partViewStore.ask({
      session,
      partId: part.id,
      stop: index,
      cleaned: stopId === 'cleaned',
      grid,
      details: view.list,
      lanes: shownLanes,
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
    laneKey,
  ]);
}
