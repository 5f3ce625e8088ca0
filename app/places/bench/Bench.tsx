import { useEffect } from 'react';
import { isTyping } from '@/shell/useUndoKeys';
import { transport } from '@/sound/transport';
import { useAppDispatch } from '@/state/store';
import { viewChanged } from '@/state/viewSlice';
import { useImport } from '@/shell/ImportProvider';
import { Button } from '@/ui';
import { LineOfSteps } from './LineOfSteps';
import { PartsList } from './PartsList';
import { partViewStore, usePartView } from './partViewStore';
import { Roll } from './Roll';
import { SettingsPanel } from './SettingsPanel';
import { TransportBar } from './TransportBar';
import { useBench, type BenchState } from './useBench';
import { usePlayback } from './usePlayback';

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
  const { view } = usePartView();
  const { session, part, stop } = bench;
  useAskForView(bench);
  useBenchKeys(bench, playback);
  useEffect(() => () => partViewStore.clear(), [session.id]);
  if (!part || !stop) return null;
  const spreads = view?.partId === part.id ? view.spreads : [];
  return (
    <main className="flex min-w-0 grow flex-col">
      <LineOfSteps
        part={part}
        stop={stop}
        grid={bench.view.grid}
        spreads={spreads}
        mayWrite={bench.mayWrite}
      />
      <div className="flex min-h-0 grow">
        <PartsList bench={bench} />
        <Roll bench={bench} playing={playback.playing} />
        <SettingsPanel bench={bench} />
      </div>
      <TransportBar bench={bench} playback={playback} />
    </main>
  );
}

/** Has the engine work out the stop stood at whenever anything it depends on changes. */
function useAskForView({ session, part, stop, view }: BenchState) {
  const stopId = stop?.id;
  const index = stop?.index ?? 0;
  useEffect(() => {
    if (!part) return;
    partViewStore.ask({
      session: { ...session, parts: [part] },
      partId: part.id,
      stop: index,
      cleaned: stopId === 'cleaned',
      grid: view.grid,
    });
    // Only what the answer depends on: other parts may change without asking again.
    // eslint-disable-next-line react-hooks/exhaustive-deps
  }, [part, session.takes, session.tempos, session.meters, session.division, index, stopId, view.grid]);
}

function useBenchKeys(bench: BenchState, playback: ReturnType<typeof usePlayback>) {
  const dispatch = useAppDispatch();
  const { loop, click } = bench.view;
  const { toggle, setHolding } = playback;
  useEffect(() => {
    const onDown = (event: KeyboardEvent) => {
      if (isTyping(event) || event.ctrlKey || event.metaKey || event.altKey) return;
      // Dialogs and menus keep their keys.
      if ((event.target as HTMLElement | null)?.closest('[role=dialog], [role=menu]')) return;
      const key = event.key.toLowerCase();
      if (key === ' ') {
        if (!event.repeat) void toggle();
      } else if (key === 'b') setHolding(true);
      else if (key === 'l' && loop.to > loop.from) dispatch(viewChanged({ loop: { ...loop, on: !loop.on } }));
      else if (key === 'c') dispatch(viewChanged({ click: !click }));
      else if (key === 'home') transport.locate(0);
      else return;
      event.preventDefault();
    };
    const onUp = (event: KeyboardEvent) => {
      if (event.key.toLowerCase() === 'b') setHolding(false);
      // A focused button must not be pressed by the Space that started the music.
      if (event.key === ' ' && !isTyping(event)) event.preventDefault();
    };
    const onBlur = () => setHolding(false);
    window.addEventListener('keydown', onDown);
    window.addEventListener('keyup', onUp);
    window.addEventListener('blur', onBlur);
    return () => {
      window.removeEventListener('keydown', onDown);
      window.removeEventListener('keyup', onUp);
      window.removeEventListener('blur', onBlur);
    };
  }, [dispatch, toggle, setHolding, loop, click]);
}
