import { nameOfNoteValue, type NudgeStep } from '@ordle/core';
import { NumberField, SliderField } from '@/ui';
import { signed, type StepFormProps } from './formProps';
import { NoteValueOptions } from './GridPicker';

export function NudgeForm({ step, disabled, onChange, onAbandon }: StepFormProps<NudgeStep>) {
  return (
    <>
      <SliderField
        label="Milliseconds"
        value={step.ms}
        min={-100}
        max={100}
        typedMin={-60000}
        typedMax={60000}
        unit="ms"
        disabled={disabled}
        onAbandon={onAbandon}
        onChange={(ms, gesture) => onChange(`Nudge ${signed(ms)} ms`, { ms }, gesture)}
      />
      <div className="flex items-baseline justify-between text-ink-2">
        Ticks
        <NumberField
          label="Ticks"
          value={step.ticks}
          min={-1e9}
          max={1e9}
          className="w-16"
          disabled={disabled}
          onCommit={(ticks) => onChange(`Nudge ${signed(ticks)} ticks`, { ticks })}
        />
      </div>
      <div className="flex items-baseline justify-between text-ink-2">
        Grid steps
        <span className="flex items-baseline gap-1">
          <NumberField
            label="Grid steps"
            value={step.steps}
            min={-10000}
            max={10000}
            disabled={disabled}
            onCommit={(steps) => onChange(`Nudge ${signed(steps)} grid steps`, { steps })}
          />
          of
          <select
            aria-label="Grid of the steps"
            value={nameOfNoteValue(step.grid)}
            disabled={disabled}
            onChange={(event) => onChange('Grid of the nudge', { grid: event.target.value })}
            className="h-6 rounded-medium border border-rule-strong bg-sheet px-1"
          >
            <NoteValueOptions />
          </select>
        </span>
      </div>
      <p className="text-quiet text-ink-2">Controllers between the touched notes move along.</p>
    </>
  );
}
