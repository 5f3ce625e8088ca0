import { nameOfNoteValue, type LengthStep } from '@ordle/core';
import { Check, Select } from '@/ui';
import type { StepFormProps } from './formProps';
import { NoteValueOptions } from './GridPicker';
import { OptionalNumber } from './OptionalNumber';
import { settingOf } from './settingOf';
import { StepOptional, StepRange } from './StepFields';

const GAP = settingOf({ kind: 'length' }, 'legato.gapTicks');

export function LengthForm(form: StepFormProps<LengthStep>) {
  const { step, disabled, onChange, onAbandon } = form;
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
      <StepOptional
        form={form}
        setting="scale"
        label="scale"
        says="Lengths"
        disabled={disabled || step.set !== undefined}
      />
      <OptionalNumber
        setting="legato"
        label="legato, gap"
        value={step.legato?.gapTicks}
        known={GAP}
        disabled={disabled}
        onAbandon={onAbandon}
        onChange={(gapTicks, gesture) =>
          onChange(
            gapTicks === undefined ? 'No legato' : `Legato, gap ${gapTicks} ticks`,
            { legato: gapTicks === undefined ? undefined : { gapTicks } },
            gesture,
          )
        }
      />
      <StepRange form={form} setting="limit" label="limit, ticks" says="Limit lengths" initial={[60, 1920]} />
      <Check
        setting="hold"
        checked={step.hold !== undefined}
        disabled={disabled}
        onChange={(on) =>
          onChange(on ? 'Lengthen to the end of the pedal' : 'Do not lengthen to the pedal', {
            hold: on ? 'fromPedal' : undefined,
          })
        }
      >
        lengthen notes to the end of the pedal
      </Check>
      <Check
        setting="noOverlap"
        checked={step.noOverlap}
        disabled={disabled}
        onChange={(noOverlap) => onChange(noOverlap ? 'No overlaps' : 'Allow overlaps', { noOverlap })}
      >
        no overlaps of one pitch
      </Check>
      <Check
        setting="monophonic"
        checked={step.monophonic === true}
        disabled={disabled}
        onChange={(on) =>
          onChange(on ? 'One note at a time' : 'Notes may overlap', { monophonic: on || undefined })
        }
      >
        one note (or chord) at a time
      </Check>
    </>
  );
}
