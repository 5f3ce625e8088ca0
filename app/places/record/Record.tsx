import {
  barAt,
  barNumbered,
  itemOf,
  ticksToSeconds,
  type InputMap,
  type Part,
  type Session,
} from '@ordle/core';
import { useMemo, useState } from 'react';
import { useCommands } from '@/commands';
import { addEmptyPart } from '@/edits/addEmptyPart';
import { useBench, useOpenBench } from '@/music/useBench';
import { TransportBar } from '@/panels/transport/TransportBar';
import { usePlaceOfPlayLine } from '@/playback/usePlayTick';
import { usePlayback } from '@/playback/usePlayback';
import { keepPlayed } from '@/recording/keepPlayed';
import { panic } from '@/recording/liveSound';
import { currentTake, stopRecording, toggleRecording, usePhase } from '@/recording/recorder';
import { planOf } from '@/recording/recordingPlan';
import { useRecordSettings, useRecordingPlace } from '@/recording/settings';
import { transport } from '@/sound/transport';
import { edit, undoLast } from '@/state/sessionSlice';
import { useAppDispatch } from '@/state/store';
import { viewChanged } from '@/state/viewSlice';
import { Button } from '@/ui';
import { AfterLine } from './AfterLine';
import { InputMapDialog } from './InputMapDialog';
import { LatencyDialog } from './LatencyDialog';
import { MemoryDialog } from './MemoryDialog';
import { Passes, newestPass, throwBack } from './Passes';
import { RecordHead } from './RecordHead';
import { RecordSettings } from './RecordSettings';
import { Ribbon } from './Ribbon';
import { useComputerKeys } from './standins/computerKeys';
import { StandIns } from './standins/StandIns';
import { useRecordLife } from './useRecordLife';

/** Playing in: big and calm, made for somebody whose hands are on an instrument. */
export function Record() {
  const bench = useBench();
  const dispatch = useAppDispatch();
  if (!bench) return null;
  if (!bench.part)
    return (
      <main className="flex grow flex-col items-center justify-center gap-3">
        <p>This session has no parts. Playing needs one to go into.</p>
        <Button look="main" disabled={!bench.mayWrite} onClick={() => addEmptyPart(dispatch)}>
          Add a part
        </Button>
      </main>
    );
  return <RecordInto session={bench.session} part={bench.part} />;
}

function RecordInto({ session, part }: { session: Session; part: Part }) {
  const bench = useOpenBench();
  const { timeline, mayWrite, view } = bench;
  const dispatch = useAppDispatch();
  const phase = usePhase();
  const settings = useRecordSettings();
  const place = useRecordingPlace();
  const playback = usePlayback(bench);
  const [dialog, setDialog] = useState<'map' | 'latency' | 'memory' | null>(null);
  const [computerKeys, setComputerKeys] = useState(false);
  const isOn = phase !== 'ready';
  useRecordLife(session, timeline);
  const isMeasuring = dialog === 'latency';
  useComputerKeys(isMeasuring || (computerKeys && dialog === null), isMeasuring);
  const resting = usePlaceOfPlayLine(timeline);
  const plan = useMemo(
    () => currentTake()?.plan ?? planOf(timeline, view.loop, resting),
    // eslint-disable-next-line react-hooks/exhaustive-deps -- worked out of what is set in stores of their own
    [timeline, view.loop, resting, settings, place, phase],
  );
  const parts = [part.id, ...place.also].flatMap((id) => itemOf(session.parts, id) ?? []);
  const keep = (stretch?: Parameters<typeof keepPlayed>[0]) => {
    setDialog(null);
    void keepPlayed(stretch);
  };
  const toStart = () => transport.locate(0);
  const locate = (tick: number) => transport.locate(ticksToSeconds(timeline.tempo, Math.max(0, tick)));
  const byBars = (bars: number) => {
    const here = barAt(timeline.meter, resting);
    const isWithin = bars < 0 && resting > here.start + 1;
    locate(barNumbered(timeline.meter, Math.max(1, here.number + (isWithin ? 0 : bars))).start);
  };
  useCommands({
    play: () => void (isOn ? stopRecording() : playback.toggle()),
    record: mayWrite ? () => void toggleRecording() : undefined,
    'keep-played': mayWrite && !isOn ? () => keep() : undefined,
    panic,
    'computer-keys': () => setComputerKeys(!computerKeys),
    'throw-back': isOn ? () => throwBack(newestPass(timeline)) : undefined,
    loop:
      view.loop.to > view.loop.from && !isOn
        ? () => dispatch(viewChanged({ loop: { ...view.loop, on: !view.loop.on } }))
        : undefined,
    click: isOn ? undefined : () => dispatch(viewChanged({ click: !view.click })),
    'to-start': isOn ? undefined : toStart,
    'bar-back': isOn ? undefined : () => byBars(-1),
    'bar-on': isOn ? undefined : () => byBars(1),
  });
  const changeMap = (map: InputMap, label: string) =>
    dispatch(
      edit(label, (draft) => {
        const own = itemOf(draft.parts, part.id);
        if (own) own.input = map;
      }),
    );

  return (
    <main className="flex min-w-0 grow flex-col">
      <RecordHead
        session={session}
        timeline={timeline}
        plan={plan}
        part={part}
        parts={parts}
        mayWrite={mayWrite}
        onKeep={() => keep()}
        onMemory={() => setDialog('memory')}
      />
      <AfterLine session={session} playback={playback} onUndo={() => dispatch(undoLast())} />
      <div className="flex min-h-0 grow">
        <div className="flex min-w-0 grow flex-col">
          <Ribbon session={session} timeline={timeline} plan={plan} onLocate={isOn ? undefined : locate} />
          <Passes timeline={timeline} />
        </div>
        <RecordSettings session={session} timeline={timeline} part={part} />
      </div>
      <StandIns
        key={part.id}
        session={session}
        part={part}
        computerKeys={computerKeys}
        onComputerKeys={setComputerKeys}
        onLatency={() => setDialog('latency')}
        onMap={() => setDialog('map')}
      />
      <TransportBar playback={{ ...playback, toggle: () => (isOn ? stopRecording() : playback.toggle()) }} />
      {dialog === 'map' && (
        <InputMapDialog
          part={part}
          mayWrite={mayWrite}
          onChange={changeMap}
          onClose={() => setDialog(null)}
        />
      )}
      {dialog === 'latency' && <LatencyDialog onClose={() => setDialog(null)} />}
      {dialog === 'memory' && <MemoryDialog onKeep={keep} onClose={() => setDialog(null)} />}
    </main>
  );
}
