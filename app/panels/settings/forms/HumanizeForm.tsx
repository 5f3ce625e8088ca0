import type { HumanizeStep } from '@ordle/core';
import { Button } from '@/ui';
import type { StepFormProps } from './formProps';
import { StepNumber, StepSlider } from './StepFields';

export function HumanizeForm(form: StepFormProps<HumanizeStep>) {
  const { step, disabled, onChange } = form;
  return (
    <>
      <StepSlider form={form} setting="timingMs" label="Timing" says="Humanize timing" />
      <StepSlider
        form={form}
        setting="drift"
        label="Timing drift"
        says="Drift"
        disabled={disabled || step.timingMs === 0}
      />
      <StepSlider form={form} setting="velocity" label="Velocity" says="Humanize velocity" />
      <StepSlider form={form} setting="lengthPct" label="Length" says="Humanize length" />
      <Spread ms={step.timingMs} />
      <div className="flex items-baseline justify-between">
        <span className="text-ink-2">
          Variation no. <StepNumber form={form} setting="seed" label="Variation number" className="w-20" />
        </span>
        <Button
          disabled={disabled}
          onClick={() => onChange('Try another', { seed: Math.floor(Math.random() * 1e6) })}
        >
          Try another
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
        aria-label={`Notes scatter by ${ms} ms around where they were`}
      >
        <path d={`M0 ${height + 0.5}H${width}`} stroke="var(--rule-strong)" />
        <polyline points={points.join(' ')} fill="none" stroke="var(--ink)" strokeWidth="1.5" />
      </svg>
      <figcaption className="flex justify-between text-quiet text-ink-2">
        <span>−100</span>
        <span>0 ms</span>
        <span>+100</span>
      </figcaption>
    </figure>
  );
}
