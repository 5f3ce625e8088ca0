import { itemOf } from '@ordle/core';
import { useCommands } from '@/commands';
import { useBench, useOpenBench } from '@/music/useBench';
import { NoParts } from '@/panels/NoParts';
import { TransportBar } from '@/panels/transport/TransportBar';
import { useShowOnBench } from '@/panels/useShowOnBench';
import { usePlayback } from '@/playback/usePlayback';
import { transport } from '@/sound/transport';
import { useAppDispatch } from '@/state/store';
import { currentStopSet, viewChanged } from '@/state/viewSlice';
import { FindingsList } from './FindingsList';
import { GridAdvice } from './GridAdvice';
import { PartsTable } from './PartsTable';
import type { PartFinding } from './readingsActions';
import { useReadings } from './useReadings';

/** The parts in figures, before and after, and what is probably wrong with them. */
export function Readings() {
  const bench = useBench();
  if (!bench) return null;
  if (!bench.part) return <NoParts>This session has no parts to measure.</NoParts>;
  return <ReadingsOfSession />;
}

function ReadingsOfSession() {
  const bench = useOpenBench();
  const { session, view: seen, part, mayWrite } = bench;
  const dispatch = useAppDispatch();
  const show = useShowOnBench();
  const playback = usePlayback(bench);
  const { view, open, error } = useReadings(session, seen.grid);
  const chosen = view?.parts.find(({ partId }) => partId === part?.id) ?? view?.parts[0];
  const chosenPart = itemOf(session.parts, chosen?.partId);
  useCommands({
    play: () => void playback.toggle(),
    click: () => dispatch(viewChanged({ click: !seen.click })),
    'to-start': () => transport.locate(0),
  });
  const stand = ({ partId }: PartFinding) => {
    dispatch(viewChanged({ partId, together: [], show: 'both' }));
    dispatch(currentStopSet({ partId, stop: 'cleaned' }));
  };
  return (
    <main className="flex min-w-0 grow flex-col" data-testid="readings" data-read={view !== null}>
      <p className="flex h-10 shrink-0 items-center border-b border-rule-strong bg-ground px-4 text-ink-2">
        {error ??
          'As cleaned and as played, each part against its grid; in the pictures as played is the outline.'}
      </p>
      <div className="flex min-h-0 grow">
        <div className="flex min-w-0 grow flex-col overflow-auto bg-sheet" tabIndex={0}>
          {view ? (
            <PartsTable
              session={session}
              readings={view}
              chosen={chosen?.partId}
              onChoose={(partId) => dispatch(viewChanged({ partId }))}
            />
          ) : (
            <p className="p-4 text-ink-2">Measuring ...</p>
          )}
          {chosen && chosenPart && <GridAdvice part={chosenPart} reading={chosen} mayWrite={mayWrite} />}
        </div>
        <FindingsList
          findings={open}
          isRead={view !== null}
          onShow={(finding) => show(finding)}
          onHear={(finding) => {
            stand(finding);
            void playback.around(finding.tick);
          }}
        />
      </div>
      <TransportBar playback={playback} />
    </main>
  );
}
