import {
  USUAL_BPM,
  barAt,
  barNumbered,
  bpmOf,
  effectiveTempos,
  scaledTempos,
  withRamp,
  type TempoRamp,
} from '@ordle/core';
import { useState } from 'react';
import { changeMap } from '@/edits/timeActions';
import { useOpenBench } from '@/music/useBench';
import { useAppDispatch } from '@/state/store';
import { Button, NumberField, Select } from '@/ui';
import { RAMP_WORDS } from './TempoTable';

/** How the heads of the sections of the panel are set. */
export const HEAD = 'font-serif text-[1.05rem] font-semibold';

/** Bars of a stretch, and what is made of the tempo there: a ramp, or all of it faster or slower. */
export function SomeBars({ chosen, endTick }: { chosen: number | null; endTick: number }) {
  const { session, timeline, mayWrite } = useOpenBench();
  const dispatch = useAppDispatch();
  const { meter, ticksPerQuarter } = timeline;
  const first = barAt(meter, chosen ?? 0).number;
  const end = barAt(meter, Math.max(0, endTick - 1)).number;
  const [bars, setBars] = useState<[number, number]>([
    first,
    chosen === null ? end : Math.min(end, first + 3),
  ]);
  const tempos = effectiveTempos(session.tempos);
  const bpmAt = (tick: number) =>
    bpmOf((tempos.findLast((each) => each.tick <= tick) ?? tempos[0]).microsecondsPerQuarter);
  const [from, to] = [barNumbered(meter, bars[0]).start, barNumbered(meter, bars[1] + 1).start];
  const [ends, setEnds] = useState<[number, number] | null>(null);
  const [fromBpm, toBpm] = ends ?? [Number(bpmAt(from).toFixed(2)), Number(bpmAt(to).toFixed(2))];
  const [shape, setShape] = useState<TempoRamp['shape']>('line');
  const [percent, setPercent] = useState(100);
  const bpmField = (label: string, value: number, onCommit: (bpm: number) => void) => (
    <NumberField
      label={label}
      value={value}
      min={USUAL_BPM.least}
      max={USUAL_BPM.most}
      step={0.01}
      className="w-14"
      disabled={!mayWrite}
      onCommit={onCommit}
    />
  );
  return (
    <section aria-label="Some bars" className="flex flex-col gap-2 border-b border-rule p-4">
      <h2 className={HEAD}>Some bars</h2>
      <p className="flex items-baseline gap-1 text-ink-2">
        bars
        <NumberField
          label="First bar of the stretch"
          value={bars[0]}
          min={1}
          max={99999}
          className="w-11"
          disabled={!mayWrite}
          onCommit={(bar) => setBars([bar, Math.max(bar, bars[1])])}
        />
        to
        <NumberField
          label="Last bar of the stretch"
          value={bars[1]}
          min={1}
          max={99999}
          className="w-11"
          disabled={!mayWrite}
          onCommit={(bar) => setBars([Math.min(bar, bars[0]), bar])}
        />
      </p>
      <p className="flex items-baseline gap-1 text-ink-2">
        from
        {bpmField('Tempo the ramp begins with', fromBpm, (bpm) => setEnds([bpm, toBpm]))}
        to
        {bpmField('Tempo the ramp ends with', toBpm, (bpm) => setEnds([fromBpm, bpm]))}
        bpm
      </p>
      <label className="flex items-baseline gap-2 text-ink-2">
        it goes
        <Select
          label="How the ramp goes"
          value={shape}
          disabled={!mayWrite}
          onChange={(next) => setShape(next as TempoRamp['shape'])}
        >
          {Object.entries(RAMP_WORDS).map(([each, words]) => (
            <option key={each} value={each}>
              {words}
            </option>
          ))}
        </Select>
      </label>
      <Button
        className="justify-center"
        disabled={!mayWrite}
        title="One ramp of the map; files hold it in steps of a sixteenth"
        onClick={() =>
          changeMap(dispatch, `A ramp from ${fromBpm} to ${toBpm} bpm`, (own) => ({
            tempos: withRamp(own.tempos, { from, to, fromBpm, toBpm, shape, every: ticksPerQuarter / 4 }),
          }))
        }
      >
        Make a ramp
      </Button>
      <p className="flex items-baseline gap-1 text-ink-2">
        tempo at
        <NumberField
          label="Tempo in percent"
          unit="%"
          value={percent}
          min={10}
          max={1000}
          step={0.1}
          className="w-14"
          disabled={!mayWrite}
          onCommit={setPercent}
        />
        <span className="grow" />
        <Button
          disabled={!mayWrite || percent === 100}
          onClick={() => {
            changeMap(dispatch, `Tempo at ${percent} %`, (own) => ({
              tempos: scaledTempos(
                own.tempos,
                percent / 100,
                from,
                bars[0] === 1 && bars[1] >= end ? Infinity : to,
              ),
            }));
            setPercent(100);
          }}
        >
          Scale
        </Button>
      </p>
    </section>
  );
}
