import { Check, NumberField, SliderField } from '@/ui';

interface OptionalNumberProps {
  label: string;
  value: number | undefined;
  /** What it is set to when it is ticked. */
  initial: number;
  min: number;
  max: number;
  unit?: string;
  setting?: string;
  /** Ends of a slider for it, where dragging suits. */
  slide?: [number, number];
  slideStep?: number;
  onAbandon?(gesture: string): void;
  disabled: boolean;
  onChange(value: number | undefined, gesture?: string): void;
}

/** A setting that may be left out: a tick, and its value when it is on. */
export function OptionalNumber({
  label,
  value,
  initial,
  min,
  max,
  unit,
  setting,
  slide,
  slideStep,
  onAbandon,
  disabled,
  onChange,
}: OptionalNumberProps) {
  const tick = (
    <Check
      checked={value !== undefined}
      setting={setting}
      disabled={disabled}
      onChange={(on) => onChange(on ? initial : undefined)}
    >
      {label}
    </Check>
  );
  if (slide && onAbandon && value !== undefined) {
    return (
      <SliderField
        label={label}
        lead={tick}
        setting={setting}
        value={value}
        min={slide[0]}
        max={slide[1]}
        step={slideStep}
        typedMin={min}
        typedMax={max}
        unit={unit ?? ''}
        disabled={disabled}
        onAbandon={onAbandon}
        onChange={onChange}
      />
    );
  }
  return (
    <div className="flex items-baseline justify-between">
      {tick}
      {value !== undefined && (
        <NumberField
          label={`${label}, value`}
          setting={setting}
          value={value}
          min={min}
          max={max}
          unit={unit}
          disabled={disabled}
          onCommit={onChange}
        />
      )}
    </div>
  );
}

interface OptionalRangeProps {
  label: string;
  value: [number, number] | undefined;
  initial: [number, number];
  min: number;
  max: number;
  /** Least distance between the two. */
  span?: number;
  setting?: string;
  disabled: boolean;
  onChange(value: [number, number] | undefined): void;
}

/** A range that may be left out. */
export function OptionalRange({
  label,
  value,
  initial,
  min,
  max,
  span = 0,
  setting,
  disabled,
  onChange,
}: OptionalRangeProps) {
  return (
    <div className="flex items-baseline justify-between">
      <Check
        checked={value !== undefined}
        setting={setting}
        disabled={disabled}
        onChange={(on) => onChange(on ? initial : undefined)}
      >
        {label}
      </Check>
      {value && (
        <span className="flex items-baseline gap-1 text-ink-2">
          <NumberField
            label={`${label}, from`}
            setting={setting}
            value={value[0]}
            min={min}
            max={max - span}
            disabled={disabled}
            onCommit={(low) => onChange([low, Math.max(low + span, value[1])])}
          />
          to
          <NumberField
            label={`${label}, to`}
            setting={setting}
            value={value[1]}
            min={min + span}
            max={max}
            disabled={disabled}
            onCommit={(high) => onChange([Math.min(high - span, value[0]), high])}
          />
        </span>
      )}
    </div>
  );
}
