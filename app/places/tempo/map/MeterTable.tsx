import { barAt, barNumbered, effectiveMeters, withMeter, withoutMeter, type Timeline } from '@ordle/core';
import { useState } from 'react';
import { changeMap } from '@/edits/timeActions';
import { useOpenBench } from '@/music/useBench';
import { useAppDispatch } from '@/state/store';
import { Button, NumberField, Select } from '@/ui';

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
    <section aria-label="Meter changes" className="flex w-80 shrink-0 flex-col max-xl:w-60">
      <header className="flex h-10 shrink-0 items-center gap-1.5 border-b border-rule px-4">
        <h2 className="grow font-serif text-[1.05rem] font-semibold">Meter</h2>
        <span className="text-ink-2 max-xl:hidden">from bar</span>
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
                tip="How many beats make a bar from here on."
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
                tip="The note value of one beat: 4 is a quarter note."
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
                delete
              </Button>
            </li>
          );
        })}
      </ul>
    </section>
  );
}
