import type { HumanizeStep } from '@ordle/core';
import { Button, NumberField, SliderField } from '@/ui';
import type { StepFormProps } from './formProps';

export function HumanizeForm({ step, disabled, onChange, onAbandon }: StepFormProps<HumanizeStep>) {
  return (
    <>
      <SliderField
        setting="timingMs"
        label="Timing"
        value={step.timingMs}
        min={0}
        max={40}
        typedMax={500}
        step={0.5}
        unit="ms"
        disabled={disabled}
        onAbandon={onAbandon}
        onChange={(timingMs, gesture) => onChange(`Humanize timing ${timingMs} ms`, { timingMs }, gesture)}
      />
      <SliderField
        setting="drift"
        label="Drift of the timing"
        value={step.drift}
        min={0}
        max={100}
        unit="%"
        disabled={disabled || step.timingMs === 0}
        onAbandon={onAbandon}
        onChange={(drift, gesture) => onChange(`Drift ${drift} %`, { drift }, gesture)}
      />
      <SliderField
        setting="velocity"
        label="Velocity"
        value={step.velocity}
        min={0}
        max={30}
        typedMax={64}
        step={0.5}
        unit=""
        disabled={disabled}
        onAbandon={onAbandon}
        onChange={(velocity, gesture) => onChange(`Humanize velocity ${velocity}`, { velocity }, gesture)}
      />
      <SliderField
        setting="lengthPct"
        label="Length"
        value={step.lengthPct}
        min={0}
        max={50}
        typedMax={100}
        unit="%"
        disabled={disabled}
        onAbandon={onAbandon}
        onChange={(lengthPct, gesture) => onChange(`Humanize length ${lengthPct} %`, { lengthPct }, gesture)}
      />
      <Spread ms={step.timingMs} />
      <div className="flex items-baseline justify-between">
        <span className="text-ink-2">
          Seed{' '}
          <NumberField
            setting="seed"
            label="Seed"
            value={step.seed}
            min={0}
            max={0xffffffff}
            className="w-20"
            disabled={disabled}
            onCommit={(seed) => onChange(`Seed ${seed}`, { seed })}
          />
        </span>
        <Button
          disabled={disabled}
          onClick={() => onChange('Roll again', { seed: Math.floor(Math.random() * 1e6) })}
        >
          Roll again
        </Button>
      </div>
    </>
  );
}

/** The spread of the timing as a curve: normal, cut off at 2.5 deviations, over ±100 ms. */
function Spread({ ms }: { ms: number }) {
  const [width, height] = [234, 36];
  const points = Array.from({ length: 118 }, (_, index) => {
    const at = (index / 117) * 200 - 100;
    const value = ms === 0 || Math.abs(at) > 2.5 * ms ? 0 : Math.exp(-(at * at) / (2 * ms * ms));
    return `${((index / 117) * width).toFixed(1)},${(height - value * (height - 4)).toFixed(1)}`;
  });
  return (
    <figure>
      <svg
        viewBox={`0 0 ${width} ${height + 1}`}
        className="w-full"
        role="img"
        aria-label={`Spread of ${ms} ms around where a note was`}
      >
        <path d={`M0 ${height + 0.5}H${width}`} stroke="var(--rule-strong)" />
        <polyline points={points.join(' ')} fill="none" stroke="var(--ink)" strokeWidth="1.5" />
      </svg>
      <figcaption className="flex justify-between text-[0.7rem] text-ink-2">
        <span>−100</span>
        <span>0 ms</span>
        <span>+100</span>
      </figcaption>
    </figure>
  );
}
