import type { StretchStep } from '@ordle/core';
import { Button, Check, LabelledRow, NumberField, Segmented } from '@/ui';
import type { StepFormProps } from './formProps';
import { settingOf } from './settingOf';

const ANCHORS = { start: 'the first start', bar: 'its bar line', session: 'the start of the session' };
const FACTOR = settingOf({ kind: 'stretch' }, 'factor');
const LENGTH = settingOf({ kind: 'stretch' }, 'toTicks');

export function StretchForm({ step, timeline, disabled, onChange }: StepFormProps<StretchStep>) {
  const byFactor = step.toTicks === undefined;
  const barTicks = timeline.meter.barTicks[0];
  const times = (factor: number) =>
    onChange(`Stretch × ${Number(factor.toFixed(4))}`, { factor, toTicks: undefined });
  return (
    <>
      <div className="flex items-baseline justify-between text-ink-2">
        Factor
        <NumberField
          setting="factor"
          label="Factor"
          value={byFactor ? Number(step.factor.toFixed(6)) : 1}
          min={FACTOR.min}
          max={FACTOR.max}
          step={FACTOR.step}
          initial={FACTOR.initial}
          className="w-16"
          disabled={disabled || !byFactor}
          onCommit={times}
        />
      </div>
      <div className="flex gap-2">
        <Button
          className="grow justify-center"
          disabled={disabled || !byFactor || step.factor / 2 < FACTOR.min}
          onClick={() => times(step.factor / 2)}
        >
          Halve
        </Button>
        <Button
          className="grow justify-center"
          disabled={disabled || !byFactor || step.factor * 2 > FACTOR.max}
          onClick={() => times(step.factor * 2)}
        >
          Double
        </Button>
      </div>
      <div className="flex flex-wrap items-baseline justify-between">
        <Check
          setting="toTicks"
          checked={!byFactor}
          disabled={disabled}
          onChange={(on) =>
            onChange(on ? 'Stretch to a length' : 'Stretch by a factor', {
              toTicks: on ? barTicks : undefined,
            })
          }
        >
          to a length
        </Check>
        {step.toTicks !== undefined && (
          <span className="flex items-baseline gap-2">
            <NumberField
              setting="toTicks"
              label="Length in bars"
              value={Number((step.toTicks / barTicks).toFixed(3))}
              min={0.001}
              max={99999}
              step={0.001}
              unit="bars"
              disabled={disabled}
              onCommit={(bars) => onChange(`Stretch to ${bars} bars`, { toTicks: bars * barTicks })}
            />
            <NumberField
              setting="toTicks"
              label="Length in ticks"
              value={step.toTicks}
              min={1}
              max={LENGTH.max}
              className="w-16"
              unit={LENGTH.unit}
              disabled={disabled}
              onCommit={(toTicks) => onChange(`Stretch to ${toTicks} ticks`, { toTicks })}
            />
          </span>
        )}
      </div>
      <LabelledRow label="Keep in place">
        <Segmented
          setting="anchor"
          label="Keep in place"
          disabled={disabled}
          value={step.anchor}
          options={[
            { value: 'start', label: 'its start', title: 'The first start of the notes it is for' },
            { value: 'bar', label: 'its bar line' },
            {
              value: 'session',
              label: 'bar 1',
              title: 'The start of the session: several parts stay in step',
            },
          ]}
          onChange={(anchor) => onChange(`Keep in place: ${ANCHORS[anchor]}`, { anchor })}
        />
      </LabelledRow>
      <p className="text-quiet text-ink-2">
        Or drag the grip at the end of the selected notes. Doubled and halved again, every tick is as before.
      </p>
      <Check
        setting="controllers"
        checked={step.controllers}
        disabled={disabled}
        onChange={(controllers) =>
          onChange(controllers ? 'Move controllers with notes' : 'Controllers stay', { controllers })
        }
      >
        Moving notes also moves controllers
      </Check>
    </>
  );
}
