import {
  USUAL_BPM,
  barAt,
  barNumbered,
  bpmOf,
  effectiveMeters,
  positionAt,
  tickAtPosition,
  withMeter,
  withoutMeter,
  type TempoChange,
  type Timeline,
} from '@ordle/core';
import { useVirtualizer } from '@tanstack/react-virtual';
import { useEffect, useRef, useState } from 'react';
import { parsePosition } from '@/edits/typedValues';
import { useOpenBench } from '@/music/useBench';
import { useAppDispatch } from '@/state/store';
import { Button, NumberField, Select, TextField } from '@/ui';
import { changeMap } from '@/edits/timeActions';

const ROW = 28;

interface TempoTableProps {
  tempos: readonly TempoChange[];
  timeline: Timeline;
  chosen: number | null;
  mayWrite: boolean;
  onChoose(tick: number): void;
  onPut(label: string, tick: number, bpm: number, from?: number): void;
  onRemove(tick: number): void;
}

export const placeOf = (tick: number, { meter }: Timeline): string => {
  const { bar, beat, tick: into } = positionAt(meter, tick);
  return `${bar}.${beat}${into === 0 ? '' : `.${String(into).padStart(3, '0')}`}`;
};

/** Every tempo with its place; both can be typed. */
export function TempoTable(props: TempoTableProps) {
  const { tempos, timeline, chosen, mayWrite, onChoose, onPut, onRemove } = props;
  const scroller = useRef<HTMLDivElement>(null);
  // eslint-disable-next-line react-hooks/incompatible-library -- the virtualizer keeps its own state by design
  const virtual = useVirtualizer({
    count: tempos.length,
    getScrollElement: () => scroller.current,
    estimateSize: () => ROW,
    overscan: 8,
  });
  useEffect(() => {
    const at = tempos.findIndex(({ tick }) => tick === chosen);
    if (at >= 0) virtual.scrollToIndex(at, { align: 'auto' });
    // eslint-disable-next-line react-hooks/exhaustive-deps -- only when another is chosen
  }, [chosen]);
  const last = tempos[tempos.length - 1];
  const nextBar = barAt(timeline.meter, last.tick).end;
  return (
    <section aria-label="Tempo changes" className="flex min-w-0 grow flex-col border-r border-rule">
      <header className="flex h-10 shrink-0 items-center gap-2 border-b border-rule px-4">
        <h2 className="grow font-serif text-[1.05rem] font-semibold">Tempo</h2>
        <Button
          disabled={!mayWrite}
          onClick={() => onPut('A tempo change', nextBar, bpmOf(last.microsecondsPerQuarter))}
        >
          Add a change
        </Button>
      </header>
      <div ref={scroller} className="min-h-0 grow overflow-y-auto" tabIndex={0}>
        <div
          role="table"
          aria-label="Tempo changes"
          className="relative"
          style={{ height: virtual.getTotalSize() }}
        >
          {virtual.getVirtualItems().map(({ index, start }) => {
            const { tick, microsecondsPerQuarter } = tempos[index];
            const bpm = bpmOf(microsecondsPerQuarter);
            const place = placeOf(tick, timeline);
            return (
              <div
                key={tick}
                role="row"
                aria-selected={tick === chosen}
                onPointerDown={() => onChoose(tick)}
                className={`absolute inset-x-0 flex items-center gap-3 border-b border-rule px-4 ${tick === chosen ? 'bg-well' : ''}`}
                style={{ height: ROW, transform: `translateY(${start}px)` }}
              >
                <span role="cell" className="w-28">
                  {index === 0 ? (
                    <span className="px-1 text-ink-2">start</span>
                  ) : (
                    <TextField
                      label={`Place of the tempo at ${place}`}
                      value={place}
                      disabled={!mayWrite}
                      onCommit={(text) => {
                        const typed = parsePosition(text, (at) => tickAtPosition(timeline.meter, at));
                        if (!typed) return;
                        const to = Math.round(typed.relative ? tick + typed.value : typed.value);
                        if (to > 0) onPut('Move a tempo change', to, bpm, tick);
                      }}
                    />
                  )}
                </span>
                <span role="cell" className="grow">
                  <NumberField
                    label={`Tempo at ${index === 0 ? 'the start' : place}`}
                    unit="bpm"
                    value={Number(bpm.toFixed(3))}
                    min={USUAL_BPM.least}
                    max={USUAL_BPM.most}
                    step={0.001}
                    className="w-18"
                    disabled={!mayWrite}
                    onCommit={(next) => onPut('Change a tempo', tick, next)}
                  />
                </span>
                <span role="cell">
                  <Button
                    look="quiet"
                    className="h-6"
                    disabled={!mayWrite || tempos.length === 1}
                    aria-label={`Take out the tempo at ${index === 0 ? 'the start' : place}`}
                    onClick={() => onRemove(tick)}
                  >
                    take out
                  </Button>
                </span>
              </div>
            );
          })}
        </div>
      </div>
    </section>
  );
}

const DENOMINATORS = [1, 2, 4, 8, 16, 32];

/** Every meter with the bar it begins at. */
export function MeterTable({ timeline, mayWrite }: { timeline: Timeline; mayWrite: boolean }) {
  const { session } = useOpenBench();
  const dispatch = useAppDispatch();
  const { meter, ticksPerQuarter } = timeline;
  const meters = effectiveMeters(session.meters);
  const last = meters[meters.length - 1];
  const [adding, setAdding] = useState<number | null>(null);
  const newBar = adding ?? barAt(meter, last.tick).number + 1;
  const put = (label: string, change: (typeof meters)[number]) =>
    changeMap(dispatch, label, (own) => ({ meters: withMeter(own.meters, change, ticksPerQuarter) }));
  return (
    <section aria-label="Meter changes" className="flex w-80 shrink-0 flex-col">
      <header className="flex h-10 shrink-0 items-center gap-1.5 border-b border-rule px-4">
        <h2 className="grow font-serif text-[1.05rem] font-semibold">Meter</h2>
        <span className="text-ink-2">from bar</span>
        <NumberField
          label="Bar of a new meter"
          value={newBar}
          min={2}
          max={99999}
          className="w-11"
          disabled={!mayWrite}
          onCommit={setAdding}
        />
        <Button
          disabled={!mayWrite}
          onClick={() => {
            put('A meter change', { ...last, tick: barNumbered(meter, newBar).start });
            setAdding(null);
          }}
        >
          Add
        </Button>
      </header>
      <ul aria-label="Meter changes" className="min-h-0 grow overflow-y-auto" tabIndex={0}>
        {meters.map((change) => {
          const { number } = barAt(meter, change.tick);
          return (
            <li key={change.tick} className="flex h-7 items-center gap-2 border-b border-rule px-4">
              <span className="w-16 text-ink-2">bar {number}</span>
              <NumberField
                label={`Beats a bar from bar ${number}`}
                value={change.numerator}
                min={1}
                max={64}
                className="w-9"
                disabled={!mayWrite}
                onCommit={(numerator) => put('Change a meter', { ...change, numerator })}
              />
              /
              <Select
                label={`Beat from bar ${number}`}
                value={String(change.denominator)}
                disabled={!mayWrite}
                onChange={(value) => put('Change a meter', { ...change, denominator: Number(value) })}
              >
                {DENOMINATORS.map((each) => (
                  <option key={each} value={each}>
                    {each}
                  </option>
                ))}
              </Select>
              <span className="grow" />
              <Button
                look="quiet"
                className="h-6"
                disabled={!mayWrite || meters.length === 1}
                aria-label={`Take out the meter from bar ${number}`}
                onClick={() =>
                  changeMap(dispatch, 'Take a meter change out', (own) => ({
                    meters: withoutMeter(own.meters, change.tick),
                  }))
                }
              >
                take out
              </Button>
            </li>
          );
        })}
      </ul>
    </section>
  );
}
