import { nameOfNoteValue, type LengthStep } from '@ordle/core';
import { Check, Select } from '@/ui';
import type { StepFormProps } from './formProps';
import { NoteValueOptions } from './GridPicker';
import { OptionalNumber, OptionalRange } from './OptionalNumber';

export function LengthForm({ step, disabled, onChange, onAbandon }: StepFormProps<LengthStep>) {
  return (
    <>
      <div className="flex items-baseline justify-between">
        <Check
          setting="set"
          checked={step.set !== undefined}
          disabled={disabled}
          onChange={(on) => onChange(on ? 'Set length' : 'Leave lengths', { set: on ? '1/8' : undefined })}
        >
          set to
        </Check>
        {step.set !== undefined && (
          <Select
            setting="set"
            label="Length"
            value={nameOfNoteValue(step.set)}
            disabled={disabled}
            onChange={(set) => onChange(`Length ${set}`, { set })}
          >
            <NoteValueOptions />
          </Select>
        )}
      </div>
      <OptionalNumber
        setting="scale"
        slide={[5, 200]}
        onAbandon={onAbandon}
        label="scale"
        value={step.scale}
        initial={100}
        min={1}
        max={1000}
        unit="%"
        disabled={disabled || step.set !== undefined}
        onChange={(scale, gesture) => onChange(`Lengths ${scale ?? 100} %`, { scale }, gesture)}
      />
      <OptionalNumber
        setting="legato"
        slide={[0, 480]}
        onAbandon={onAbandon}
        label="legato, gap"
        value={step.legato?.gapTicks}
        initial={0}
        min={0}
        max={1e6}
        unit="ticks"
        disabled={disabled}
        onChange={(gapTicks, gesture) =>
          onChange('Legato', { legato: gapTicks === undefined ? undefined : { gapTicks } }, gesture)
        }
      />
      <OptionalRange
        setting="limit"
        label="limit, ticks"
        value={step.limit}
        initial={[60, 1920]}
        min={0}
        max={1e6}
        disabled={disabled}
        onChange={(limit) => onChange('Limit lengths', { limit })}
      />
      <Check
        setting="hold"
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
        setting="noOverlap"
        checked={step.noOverlap}
        disabled={disabled}
        onChange={(noOverlap) => onChange(noOverlap ? 'No overlaps' : 'Allow overlaps', { noOverlap })}
      >
        no overlaps of one pitch
      </Check>
    </>
  );
}
