import { nameOfNoteValue, type NudgeStep } from '@ordle/core';
import { Check, Select } from '@/ui';
import type { StepFormProps } from './formProps';
import { NoteValueOptions } from './GridPicker';
import { StepNumber, StepSlider } from './StepFields';

export function NudgeForm(form: StepFormProps<NudgeStep>) {
  const { step, disabled, onChange } = form;
  return (
    <>
      <StepSlider form={form} setting="ms" label="Milliseconds" says="Nudge" isSigned />
      <div className="flex items-baseline justify-between text-ink-2">
        Ticks
        <StepNumber form={form} setting="ticks" label="Ticks" says="Nudge" isSigned className="w-16" />
      </div>
      <div className="flex items-baseline justify-between text-ink-2">
        Grid units
        <span className="flex items-baseline gap-1">
          <StepNumber
            form={form}
            setting="steps"
            label="Grid units"
            says="Nudge"
            unitSaid="grid units"
            isSigned
          />
          of
          <Select
            setting="grid"
            label="Grid of the steps"
            value={nameOfNoteValue(step.grid)}
            disabled={disabled}
            onChange={(grid) => onChange(`Grid of the nudge ${grid}`, { grid })}
          >
            <NoteValueOptions />
          </Select>
        </span>
      </div>
      <Check
        setting="atStart"
        checked={step.atStart === 'stop'}
        disabled={disabled}
        onChange={(on) =>
          onChange(on ? 'All stop at the start together' : 'Each stops at the start by itself', {
            atStart: on ? 'stop' : undefined,
          })
        }
      >
        keep the spacing at the start of the piece
      </Check>
      <p className="text-quiet text-ink-2">Controllers between the touched notes move along.</p>
    </>
  );
}
