import type { VelocityStep } from '@ordle/core';
import { Check, NumberField } from '@/ui';
import type { StepFormProps } from './formProps';
import { OptionalNumber } from './OptionalNumber';
import { settingOf } from './settingOf';
import { StepOptional, StepRange } from './StepFields';

const VELOCITY = { kind: 'velocity' } as const;
const RATIO = settingOf(VELOCITY, 'compress.ratio');
const AROUND = settingOf(VELOCITY, 'compress.around');
const RAMP = { from: settingOf(VELOCITY, 'ramp.from'), to: settingOf(VELOCITY, 'ramp.to') };
const RAMP_START = { from: RAMP.from.start ?? RAMP.from.min, to: RAMP.to.start ?? RAMP.to.max };

export function VelocityForm(form: StepFormProps<VelocityStep>) {
  const { step, facts, disabled, onChange, onAbandon } = form;
  const { compress, ramp } = step;
  const median = Math.min(AROUND.max, Math.max(AROUND.min, Math.round(facts?.medianVelocity ?? 72)));
  return (
    <>
      <StepOptional form={form} setting="set" label="set to" says="Set velocity" />
      <StepOptional form={form} setting="scale" label="scale" says="Scale velocity" />
      <StepOptional form={form} setting="add" label="add" says="Add velocity" isSigned />
      <OptionalNumber
        setting="compress"
        label="even out, by ratio"
        value={compress?.ratio}
        known={RATIO}
        disabled={disabled}
        onAbandon={onAbandon}
        onChange={(ratio, gesture) =>
          onChange(
            ratio === undefined ? 'Do not even out' : `Even out by ${ratio}`,
            { compress: ratio === undefined ? undefined : { ratio, around: compress?.around ?? median } },
            gesture,
          )
        }
      />
      {compress && (
        <div className="flex items-baseline justify-between pl-5.5 text-ink-2">
          around
          <NumberField
            setting="compress"
            label="Around"
            value={compress.around}
            min={AROUND.min}
            max={AROUND.max}
            disabled={disabled}
            onCommit={(around) =>
              onChange(`Even out around ${around}`, { compress: { ...compress, around } })
            }
          />
        </div>
      )}
      <StepRange form={form} setting="limit" label="limit" says="Limit velocity" initial={[30, 110]} />
      <div className="flex items-baseline justify-between">
        <Check
          setting="ramp"
          checked={ramp !== undefined}
          disabled={disabled}
          onChange={(on) => onChange(on ? 'Ramp' : 'No ramp', { ramp: on ? RAMP_START : undefined })}
        >
          ramp
        </Check>
        {ramp && (
          <span className="flex items-baseline gap-1 text-ink-2">
            {(['from', 'to'] as const).map((end) => (
              <span key={end} className="flex items-baseline gap-1">
                {end === 'to' && 'to'}
                <NumberField
                  setting="ramp"
                  label={`Ramp, ${end}`}
                  value={ramp[end]}
                  min={RAMP[end].min}
                  max={RAMP[end].max}
                  disabled={disabled}
                  onCommit={(value) => onChange(`Ramp ${end} ${value}`, { ramp: { ...ramp, [end]: value } })}
                />
              </span>
            ))}
          </span>
        )}
      </div>
      {(ramp || step.set !== undefined) && (
        <Check
          setting="relative"
          checked={step.relative === true}
          disabled={disabled}
          onChange={(on) =>
            onChange(on ? 'Keep the balance of the notes' : 'Same velocity for all notes', {
              relative: on || undefined,
            })
          }
        >
          keep the balance of the notes
        </Check>
      )}
      <p className="text-quiet text-ink-2">Ticked items apply in this order; the limit is last.</p>
    </>
  );
}
