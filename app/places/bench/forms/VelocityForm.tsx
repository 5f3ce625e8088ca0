import type { VelocityStep } from '@ordle/core';
import { Check, NumberField } from '@/ui';
import type { StepFormProps } from './formProps';
import { OptionalNumber, OptionalRange } from './OptionalNumber';

export function VelocityForm({ step, disabled, onChange }: StepFormProps<VelocityStep>) {
  return (
    <>
      <OptionalNumber
        label="set to"
        value={step.set}
        initial={80}
        min={1}
        max={127}
        disabled={disabled}
        onChange={(set) => onChange('Set velocity', { set })}
      />
      <OptionalNumber
        label="scale"
        value={step.scale}
        initial={100}
        min={0}
        max={1000}
        unit="%"
        disabled={disabled}
        onChange={(scale) => onChange('Scale velocity', { scale })}
      />
      <OptionalNumber
        label="add"
        value={step.add}
        initial={10}
        min={-127}
        max={127}
        disabled={disabled}
        onChange={(add) => onChange('Add velocity', { add })}
      />
      <OptionalNumber
        label="even out, ratio"
        value={step.compress?.ratio}
        initial={2}
        min={0.1}
        max={100}
        disabled={disabled}
        onChange={(ratio) =>
          onChange('Even out', {
            compress: ratio === undefined ? undefined : { ratio, around: step.compress?.around ?? 72 },
          })
        }
      />
      {step.compress && (
        <div className="flex items-baseline justify-between pl-5.5 text-ink-2">
          around
          <NumberField
            label="Around"
            value={step.compress.around}
            min={1}
            max={127}
            disabled={disabled}
            onCommit={(around) =>
              onChange('Even out around', { compress: { ratio: step.compress?.ratio ?? 2, around } })
            }
          />
        </div>
      )}
      <OptionalRange
        label="limit"
        value={step.limit}
        initial={[30, 110]}
        min={1}
        max={127}
        disabled={disabled}
        onChange={(limit) => onChange('Limit velocity', { limit })}
      />
      <div className="flex items-baseline justify-between">
        <Check
          checked={step.ramp !== undefined}
          disabled={disabled}
          onChange={(on) =>
            onChange(on ? 'Ramp' : 'No ramp', { ramp: on ? { from: 60, to: 96 } : undefined })
          }
        >
          ramp
        </Check>
        {step.ramp && (
          <span className="flex items-baseline gap-1 text-ink-2">
            <NumberField
              label="Ramp, from"
              value={step.ramp.from}
              min={1}
              max={127}
              disabled={disabled}
              onCommit={(from) => onChange(`Ramp from ${from}`, { ramp: { from, to: step.ramp?.to ?? 96 } })}
            />
            to
            <NumberField
              label="Ramp, to"
              value={step.ramp.to}
              min={1}
              max={127}
              disabled={disabled}
              onCommit={(to) => onChange(`Ramp to ${to}`, { ramp: { from: step.ramp?.from ?? 60, to } })}
            />
          </span>
        )}
      </div>
      <p className="text-quiet text-ink-2">What is ticked works from the top down; the limit comes last.</p>
    </>
  );
}
