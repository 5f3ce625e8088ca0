import {
  DYNAMIC_MARKS,
  MARK_VALUES,
  positionAt,
  secondsToTicks,
  tickAtPosition,
  type CurveStep,
  type DynamicMark,
  type PlacedMark,
} from '@ordle/core';
import { X } from 'lucide-react';
import { transport } from '@/sound/transport';
import { Button, Check, NumberField, Select } from '@/ui';
import type { StepFormProps } from './formProps';

type MarksStep = Extract<CurveStep, { op: 'marks' }>;
type MarksFormProps = Omit<StepFormProps<CurveStep>, 'step' | 'onChange'> & {
  step: MarksStep;
  onChange(label: string, settings: Partial<MarksStep>): void;
};

/** Dynamic marks at bars and beats with hairpins between, and the values they stand for. */
export function MarksForm({ step, timeline, disabled, onChange }: MarksFormProps) {
  const { meter } = timeline;
  const marks = [...step.marks].sort((a, b) => a.at - b.at);
  const put = (label: string, next: readonly PlacedMark[]) =>
    onChange(label, { marks: [...next].sort((a, b) => a.at - b.at) });
  const add = () => {
    const at = Math.round(secondsToTicks(timeline.tempo, transport.second()));
    put('Add a dynamic mark', [
      ...marks.filter((mark) => mark.at !== at),
      { at, mark: 'mf', hairpin: false },
    ]);
  };
  return (
    <>
      <ol aria-label="Dynamic marks" className="flex flex-col gap-1">
        {marks.map((mark, index) => {
          const { bar, beat, tick } = positionAt(meter, mark.at);
          const change = (label: string, settings: Partial<PlacedMark>) =>
            put(label, marks.with(index, { ...mark, ...settings }));
          const moveTo = (nextBar: number, nextBeat: number) =>
            change(`Move ${mark.mark} to ${nextBar}.${nextBeat}`, {
              at: Math.max(0, Math.round(tickAtPosition(meter, { bar: nextBar, beat: nextBeat, tick }))),
            });
          const place = (
            what: 'Bar' | 'Beat',
            value: number,
            max: number,
            className: string,
            onCommit: (next: number) => void,
          ) => (
            <NumberField
              label={`${what} of mark ${index + 1}`}
              value={value}
              min={1}
              max={max}
              className={className}
              disabled={disabled}
              onCommit={onCommit}
            />
          );
          return (
            <li key={index} className="flex items-center gap-1 text-ink-2">
              {place('Bar', bar, 99999, 'w-8', (next) => moveTo(next, beat))}.
              {place('Beat', beat, 64, 'w-6', (next) => moveTo(bar, next))}
              <Select
                label={`Mark ${index + 1}`}
                value={mark.mark}
                disabled={disabled}
                onChange={(next) => change(`Mark ${next}`, { mark: next as DynamicMark })}
              >
                {DYNAMIC_MARKS.map((name) => (
                  <option key={name}>{name}</option>
                ))}
              </Select>
              {index < marks.length - 1 && (
                <Check
                  checked={mark.hairpin}
                  disabled={disabled}
                  onChange={(hairpin) => change(hairpin ? 'Hairpin' : 'No hairpin', { hairpin })}
                >
                  hairpin
                </Check>
              )}
              <Button
                look="quiet"
                aria-label={`Remove mark ${index + 1}`}
                className="ml-auto h-6 w-6 shrink-0 justify-center px-0"
                disabled={disabled}
                onClick={() => put(`Remove ${mark.mark}`, marks.toSpliced(index, 1))}
              >
                <X size={13} className="shrink-0" aria-hidden="true" />
              </Button>
            </li>
          );
        })}
      </ol>
      <Button className="justify-center" disabled={disabled} onClick={add}>
        Add a mark at the play line
      </Button>
      <p className="text-quiet text-ink-2">
        {step.lane === 'velocity'
          ? 'The notes under a mark are moved to its value together; their accents stay.'
          : 'In the lane: the drawing tool puts marks, a drag moves them, a double click between two turns their hairpin on or off.'}
      </p>
      <details className="text-ink-2">
        <summary className="cursor-pointer text-quiet">what the marks stand for</summary>
        <div className="mt-1 grid grid-cols-2 gap-x-4">
          {DYNAMIC_MARKS.map((mark) => (
            <span key={mark} className="flex items-baseline justify-between">
              <i className="font-serif">{mark}</i>
              <NumberField
                label={`Value of ${mark}`}
                value={step.table[mark] ?? MARK_VALUES[mark]}
                min={0}
                max={127}
                disabled={disabled}
                onCommit={(value) =>
                  onChange(`${mark} is ${value}`, { table: { ...step.table, [mark]: value } })
                }
              />
            </span>
          ))}
        </div>
      </details>
    </>
  );
}
