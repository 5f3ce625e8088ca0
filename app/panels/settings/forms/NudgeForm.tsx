import { nameOfNoteValue, type NudgeStep } from '@ordle/core';
import { NumberField, Select, SliderField } from '@/ui';
import { signed, type StepFormProps } from './formProps';
import { NoteValueOptions } from './GridPicker';

export function NudgeForm({ step, disabled, onChange, onAbandon }: StepFormProps<NudgeStep>) {
  return (
    <>
      <SliderField
        setting="ms"
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
          setting="ticks"
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
            setting="steps"
            label="Grid steps"
            value={step.steps}
            min={-10000}
            max={10000}
            disabled={disabled}
            onCommit={(steps) => onChange(`Nudge ${signed(steps)} grid steps`, { steps })}
          />
          of
          <Select
            setting="grid"
            label="Grid of the steps"
            value={nameOfNoteValue(step.grid)}
            disabled={disabled}
            onChange={(grid) => onChange('Grid of the nudge', { grid })}
          >
            <NoteValueOptions />
          </Select>
        </span>
      </div>
      <p className="text-quiet text-ink-2">Controllers between the touched notes move along.</p>
    </>
  );
}
