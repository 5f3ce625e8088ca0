import { Check, NumberField, SliderField } from '@/ui';
import type { NumberSetting } from './settingOf';

interface OptionalNumberProps {
  label: string;
  value: number | undefined;
  /** Its range, and what it starts with when it is ticked; with a usual stretch and `onAbandon` it gets a slider. */
  known: NumberSetting;
  setting?: string;
  onAbandon?(gesture: string): void;
  disabled: boolean;
  onChange(value: number | undefined, gesture?: string): void;
}

/** A setting that may be left out: a tick, and its value when it is on. */
export function OptionalNumber(props: OptionalNumberProps) {
  const { label, value, known, setting, onAbandon, disabled, onChange } = props;
  const tick = (
    <Check
      checked={value !== undefined}
      setting={setting}
      disabled={disabled}
      onChange={(on) => onChange(on ? (known.start ?? known.min) : undefined)}
    >
      {label}
    </Check>
  );
  if (known.usual && onAbandon && value !== undefined) {
    return (
      <SliderField
        label={label}
        lead={tick}
        setting={setting}
        value={value}
        min={known.usual[0]}
        max={known.usual[1]}
        step={known.step}
        typedMin={known.min}
        typedMax={known.max}
        unit={known.unit ?? ''}
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
          min={known.min}
          max={known.max}
          unit={known.unit}
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
  known: NumberSetting;
  /** Least distance between the two. */
  span?: number;
  setting?: string;
  disabled: boolean;
  onChange(value: [number, number] | undefined): void;
}

/** A range that may be left out. */
export function OptionalRange(props: OptionalRangeProps) {
  const { label, value, initial, known, span = 0, setting, disabled, onChange } = props;
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
            min={known.min}
            max={known.max - span}
            disabled={disabled}
            onCommit={(low) => onChange([low, Math.max(low + span, value[1])])}
          />
          to
          <NumberField
            label={`${label}, to`}
            setting={setting}
            value={value[1]}
            min={known.min + span}
            max={known.max}
            disabled={disabled}
            onCommit={(high) => onChange([Math.min(high - span, value[0]), high])}
          />
        </span>
      )}
    </div>
  );
}
