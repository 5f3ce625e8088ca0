import { effectiveTempos, tempoEntries } from '@ordle/core';
import { useMemo, useState } from 'react';
import { useOpenBench } from '@/music/useBench';
import { transport } from '@/sound/transport';
import { useAppDispatch } from '@/state/store';
import { changeMap } from '@/edits/timeActions';
import { MapCurve } from './MapCurve';
import type { ChangeTempos } from './mapMoves';
import { MapPanel } from './MapPanel';
import { MeterTable } from './MeterTable';
import { TempoTable } from './TempoTable';
import { useSpans } from './useSpans';
import { ticksToSeconds } from '@ordle/core';

/** Bars after the last note that are in sight, to put changes into. */
const SPARE_BARS = 2;

/** The tempo map and meter of the session, as a curve and as tables, and what can be done to all of it. */
export function TempoMapView() {
  const { session, timeline, part, mayWrite } = useOpenBench();
  const dispatch = useAppDispatch();
  const spans = useSpans(session);
  const [chosen, setChosen] = useState<number | null>(null);
  const tempos = effectiveTempos(session.tempos);
  const last = Math.max(
    ...Object.values(spans ?? {}).map(({ end }) => end),
    tempos[tempos.length - 1].tick,
    timeline.meter.tick[timeline.meter.tick.length - 1],
  );
  const endTick = last + SPARE_BARS * timeline.meter.barTicks[0];
  const entries = useMemo(
    () => tempoEntries(session.tempos, timeline.ticksPerQuarter),
    [session.tempos, timeline.ticksPerQuarter],
  );
  const isThere = entries.some(({ tick, ramp }) => tick === chosen || (ramp && ramp.to === chosen));
  const inMap = isThere ? chosen : null;
  const change: ChangeTempos = (label, make, chooses) => {
    changeMap(dispatch, label, (own) => ({ tempos: make(own.tempos) }));
    setChosen(chooses === null ? null : Math.round(chooses));
  };
  return (
    <div className="flex min-h-0 grow">
      <div className="flex min-w-0 grow flex-col bg-sheet" data-testid="tempo-map" data-read={spans !== null}>
        <MapCurve
          tempos={tempos}
          entries={entries}
          timeline={timeline}
          endTick={endTick}
          chosen={inMap}
          mayWrite={mayWrite}
          onChoose={setChosen}
          onChange={change}
          onLocate={(tick) => transport.locate(ticksToSeconds(timeline.tempo, tick))}
        />
        <div className="flex min-h-0 grow border-t border-rule-strong">
          <TempoTable
            entries={entries}
            timeline={timeline}
            chosen={inMap}
            mayWrite={mayWrite}
            onChoose={setChosen}
            onChange={change}
          />
          <MeterTable timeline={timeline} mayWrite={mayWrite} />
        </div>
      </div>
      <MapPanel chosen={inMap} endTick={endTick} spans={spans} part={part} />
    </div>
  );
}
