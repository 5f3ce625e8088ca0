import type { StretchStep } from '@ordle/core';
import { Button, Check, LabelledRow, NumberField, Segmented } from '@/ui';
import type { StepFormProps } from './formProps';

export function StretchForm({ step, disabled, onChange }: StepFormProps<StretchStep>) {
  const byFactor = step.toTicks === undefined;
  const times = (factor: number) =>
    onChange(`Stretch × ${Number(factor.toFixed(4))}`, { factor, toTicks: undefined });
  return (
    <>
      <div className="flex items-baseline justify-between text-ink-2">
        Times as long
        <NumberField
          label="Times as long"
          value={byFactor ? Number(step.factor.toFixed(6)) : 1}
          min={0.01}
          max={100}
          step={0.0001}
          className="w-16"
          disabled={disabled || !byFactor}
          onCommit={times}
        />
      </div>
      <div className="flex gap-2">
        <Button
          className="grow justify-center"
          disabled={disabled || !byFactor || step.factor / 2 < 0.01}
          onClick={() => times(step.factor / 2)}
        >
          Halve
        </Button>
        <Button
          className="grow justify-center"
          disabled={disabled || !byFactor || step.factor * 2 > 100}
          onClick={() => times(step.factor * 2)}
        >
          Double
        </Button>
      </div>
      <div className="flex items-baseline justify-between">
        <Check
          checked={!byFactor}
          disabled={disabled}
          onChange={(on) =>
            onChange(on ? 'Stretch to a length' : 'Stretch by a factor', { toTicks: on ? 1920 : undefined })
          }
        >
          to a length in ticks
        </Check>
        {step.toTicks !== undefined && (
          <NumberField
            label="Length in ticks"
            value={step.toTicks}
            min={1}
            max={1e9}
            className="w-20"
            disabled={disabled}
            onCommit={(toTicks) => onChange(`Stretch to ${toTicks} ticks`, { toTicks })}
          />
        )}
      </div>
      <LabelledRow label="Stays">
        <Segmented
          label="What stays in place"
          disabled={disabled}
          value={step.anchor}
          options={[
            { value: 'start', label: 'first start' },
            { value: 'bar', label: 'its bar line' },
          ]}
          onChange={(anchor) =>
            onChange(anchor === 'bar' ? 'Anchor at the bar' : 'Anchor at the first start', { anchor })
          }
        />
      </LabelledRow>
      <Check
        checked={step.controllers}
        disabled={disabled}
        onChange={(controllers) =>
          onChange(controllers ? 'Controllers come along' : 'Controllers stay', { controllers })
        }
      >
        controllers come along
      </Check>
    </>
  );
}
