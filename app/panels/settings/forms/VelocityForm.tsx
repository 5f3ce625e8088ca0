import type { VelocityStep } from '@ordle/core';
import { Check, NumberField } from '@/ui';
import type { StepFormProps } from './formProps';
import { OptionalNumber, OptionalRange } from './OptionalNumber';

export function VelocityForm({ step, facts, disabled, onChange, onAbandon }: StepFormProps<VelocityStep>) {
  const median = Math.min(127, Math.max(1, Math.round(facts?.medianVelocity ?? 72)));
  return (
    <>
      <OptionalNumber
        setting="set"
        slide={[1, 127]}
        onAbandon={onAbandon}
        label="set to"
        value={step.set}
        initial={80}
        min={1}
        max={127}
        disabled={disabled}
        onChange={(set, gesture) => onChange('Set velocity', { set }, gesture)}
      />
      <OptionalNumber
        setting="scale"
        slide={[0, 200]}
        onAbandon={onAbandon}
        label="scale"
        value={step.scale}
        initial={100}
        min={0}
        max={1000}
        unit="%"
        disabled={disabled}
        onChange={(scale, gesture) => onChange('Scale velocity', { scale }, gesture)}
      />
      <OptionalNumber
        setting="add"
        slide={[-64, 64]}
        onAbandon={onAbandon}
        label="add"
        value={step.add}
        initial={10}
        min={-127}
        max={127}
        disabled={disabled}
        onChange={(add, gesture) => onChange('Add velocity', { add }, gesture)}
      />
      <OptionalNumber
        setting="compress"
        slide={[0.5, 8]}
        slideStep={0.1}
        onAbandon={onAbandon}
        label="even out, ratio"
        value={step.compress?.ratio}
        initial={2}
        min={0.1}
        max={100}
        disabled={disabled}
        onChange={(ratio, gesture) =>
          onChange(
            'Even out',
            {
              compress: ratio === undefined ? undefined : { ratio, around: step.compress?.around ?? median },
            },
            gesture,
          )
        }
      />
      {step.compress && (
        <div className="flex items-baseline justify-between pl-5.5 text-ink-2">
          around
          <NumberField
            setting="compress"
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
        setting="limit"
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
          setting="ramp"
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
              setting="ramp"
              label="Ramp, from"
              value={step.ramp.from}
              min={1}
              max={127}
              disabled={disabled}
              onCommit={(from) => onChange(`Ramp from ${from}`, { ramp: { from, to: step.ramp?.to ?? 96 } })}
            />
            to
            <NumberField
              setting="ramp"
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
