import { nameOfNoteValue, type LengthStep } from '@ordle/core';
import { Check } from '@/ui';
import type { StepFormProps } from './formProps';
import { NoteValueOptions } from './GridPicker';
import { OptionalNumber, OptionalRange } from './OptionalNumber';
import { SELECT } from './selectLook';

export function LengthForm({ step, disabled, onChange }: StepFormProps<LengthStep>) {
  return (
    <>
      <div className="flex items-baseline justify-between">
        <Check
          checked={step.set !== undefined}
          disabled={disabled}
          onChange={(on) => onChange(on ? 'Set length' : 'Leave lengths', { set: on ? '1/8' : undefined })}
        >
          set to
        </Check>
        {step.set !== undefined && (
          <select
            aria-label="Length"
            value={nameOfNoteValue(step.set)}
            disabled={disabled}
            onChange={(event) => onChange(`Length ${event.target.value}`, { set: event.target.value })}
            className={SELECT}
          >
            <NoteValueOptions />
          </select>
        )}
      </div>
      <OptionalNumber
        label="scale"
        value={step.scale}
        initial={100}
        min={1}
        max={1000}
        unit="%"
        disabled={disabled || step.set !== undefined}
        onChange={(scale) => onChange('Scale lengths', { scale })}
      />
      <OptionalNumber
        label="legato, gap"
        value={step.legato?.gapTicks}
        initial={0}
        min={0}
        max={1e6}
        unit="ticks"
        disabled={disabled}
        onChange={(gapTicks) =>
          onChange('Legato', { legato: gapTicks === undefined ? undefined : { gapTicks } })
        }
      />
      <OptionalRange
        label="limit, ticks"
        value={step.limit}
        initial={[60, 1920]}
        min={0}
        max={1e6}
        disabled={disabled}
        onChange={(limit) => onChange('Limit lengths', { limit })}
      />
      <Check
        checked={step.hold !== undefined}
        disabled={disabled}
        onChange={(on) =>
          onChange(on ? 'Hold by the pedal' : 'Do not hold by the pedal', {
            hold: on ? 'fromPedal' : undefined,
          })
        }
      >
        hold until the pedal comes up
      </Check>
      <Check
        checked={step.noOverlap}
        disabled={disabled}
        onChange={(noOverlap) => onChange(noOverlap ? 'No overlaps' : 'Allow overlaps', { noOverlap })}
      >
        no overlaps of one pitch
      </Check>
    </>
  );
}
