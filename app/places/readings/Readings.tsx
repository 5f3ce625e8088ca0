import { barAt, itemOf } from '@ordle/core';
import { run, useCommands } from '@/commands';
import { useBench, useOpenBench } from '@/music/useBench';
import { useSections } from '@/music/useMarkers';
import { NoParts } from '@/panels/NoParts';
import { SidePanel } from '@/panels/SidePanel';
import { TransportBar } from '@/panels/transport/TransportBar';
import { useShowOnBench } from '@/panels/useShowOnBench';
import { usePlayback } from '@/playback/usePlayback';
import { saveAs } from '@/files/saveAs';
import { transport } from '@/sound/transport';
import { Button } from '@/ui';
import { useAppDispatch } from '@/state/store';
import { currentStopSet, viewChanged } from '@/state/viewSlice';
import { FindingsList } from './FindingsList';
import { PartDetail } from './PartDetail';
import { PartsTable } from './PartsTable';
import type { PartFinding } from '@/edits/mendFindings';
import { reportOfSession } from './report';
import { useReadingsChoice } from './readingsChoice';
import { useReadings } from './useReadings';
import { WhereBar } from './WhereBar';

/** The parts in figures, before and after, and what is probably wrong with them. */
export function Readings() {
  const bench = useBench();
  if (!bench) return null;
  if (!bench.part) return <NoParts>This session has no parts to measure.</NoParts>;
  return <ReadingsOfSession />;
}

function ReadingsOfSession() {
  const bench = useOpenBench();
  const { view: seen, session, part, mayWrite } = bench;
  const dispatch = useAppDispatch();
  const show = useShowOnBench();
  const playback = usePlayback(bench);
  const { choice, choose } = useReadingsChoice(session.id);
  const { readings, open, error } = useReadings(session, seen.grid, choice.where);
  const sections = useSections(readings?.endTick ?? 0);
  const lastBar = barAt(bench.timeline.meter, Math.max(0, (readings?.endTick ?? 1) - 1)).number;
  const chosen = readings?.parts.find(({ partId }) => partId === part?.id) ?? readings?.parts[0];
  const pieces = [...new Set(readings?.parts.flatMap((each) => each.pieces))].sort((a, b) => a - b);
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
    <main className="flex min-w-0 grow flex-col" data-testid="readings" data-read={readings !== null}>
      <header className="flex min-h-10 shrink-0 flex-wrap items-center gap-x-4 gap-y-1 narrow:py-1 border-b border-rule-strong bg-ground px-4 text-ink-2">
        <p className="min-w-0 truncate">{error ?? 'Each part against its grid; as played is the outline'}</p>
        <WhereBar
          where={choice.where}
          lastBar={lastBar}
          pieces={pieces}
          sections={sections}
          onChange={(where) => choose({ where })}
        />
        <span className="grow" />
        <Button
          className="h-6"
          title="What would clean up all parts, and why; one button does it"
          onClick={() => run('go-clean-up')}
        >
          Suggested clean-up
        </Button>
        <Button
          className="h-6"
          disabled={!readings}
          title="A page of before and after, to be read and printed anywhere"
          onClick={() => {
            if (!readings) return;
            const page = reportOfSession(session, readings, {
              open,
              where: choice.where,
              timeline: bench.timeline,
            });
            saveAs(`${session.name}, readings.html`, new TextEncoder().encode(page), 'text/html');
          }}
        >
          Save report
        </Button>
      </header>
      <div className="flex min-h-0 grow">
        <div className="flex min-w-0 grow flex-col bg-sheet">
          {readings ? (
            <div
              className="max-h-[calc(100%-19rem)] min-h-24 shrink-0 overflow-auto short:max-h-24"
              tabIndex={0}
            >
              <PartsTable
                session={session}
                readings={readings}
                chosen={chosen?.partId}
                onChoose={(partId) => dispatch(viewChanged({ partId }))}
                onOpen={(partId, shown) => {
                  dispatch(viewChanged({ partId }));
                  choose({ shown });
                }}
              />
            </div>
          ) : (
            <p className="p-4 text-ink-2">Measuring ...</p>
          )}
          {chosen && chosenPart && (
            <PartDetail
              session={session}
              part={chosenPart}
              reading={chosen}
              grid={seen.grid}
              mayWrite={mayWrite}
              choice={choice}
              choose={choose}
            />
          )}
        </div>
        <SidePanel name="Findings" className="w-[24rem] max-xl:w-72">
          <FindingsList
            findings={open}
            isRead={readings !== null}
            onShow={(finding) => show(finding)}
            onHear={(finding) => {
              stand(finding);
              void playback.around(finding.tick);
            }}
          />
        </SidePanel>
      </div>
      <TransportBar playback={playback} />
    </main>
  );
}
