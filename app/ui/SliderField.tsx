import { Slider } from 'radix-ui';
import { memo, useEffect, useRef, type ReactNode } from 'react';
import { useMixed } from './mixed';
import { ownTip, useNumberTip } from './settingTips';
import { NumberField } from './NumberField';
import { useStable } from './useStable';

interface SliderFieldProps {
  label: string;
  value: number;
  min: number;
  max: number;
  /** Ends of what may be typed, where they are wider than the slider. */
  typedMin?: number;
  typedMax?: number;
  step?: number;
  unit: string;
  /** The setting it shows, for telling that it is mixed. */
  setting?: string;
  /** What it is where nothing is said of it, as it is shown here. */
  initial?: number;
  /** What it does, where no form of a step knows it. */
  tip?: string;
  /** Stands in place of the label, for a setting that can be left out. */
  lead?: ReactNode;
  disabled?: boolean;
  /** Called for every move; moves of one drag share a gesture. */
  onChange(value: number, gesture: string): void;
  /** The drag was given up with Escape: take back what it did. */
  onAbandon(gesture: string): void;
}

/** Arrow keys pressed within this of each other count as one gesture. */
const KEY_GESTURE_MS = 900;
let gestures = 0;

/** A thin slider with its typed value. Everything it changes while dragged is heard and seen at once. */
export function SliderField(props: SliderFieldProps) {
  const {
    label,
    value,
    min,
    max,
    typedMin = min,
    typedMax = max,
    step = 1,
    unit,
    disabled,
    setting,
    initial,
    lead,
    tip: own,
    onChange,
    onAbandon,
  } = props;
  const mixed = useMixed(setting);
  const tip = useNumberTip(setting, { min: typedMin, max: typedMax, unit, initial }, ownTip(own));
  const gesture = useRef<{ name: string; at: number; dragging: boolean; abandoned: boolean } | null>(null);

  function nameOf(dragging: boolean): string | null {
    const now = performance.now();
    const known = gesture.current;
    if (known?.dragging && known.abandoned) return null;
    const goesOn = known && (known.dragging || (!dragging && now - known.at < KEY_GESTURE_MS));
    if (goesOn) known.at = now;
    else
      gesture.current = { name: `${label}-${Date.now()}-${gestures++}`, at: now, dragging, abandoned: false };
    return gesture.current?.name ?? null;
  }

  useEffect(() => {
    const onKey = (event: KeyboardEvent) => {
      const known = gesture.current;
      if (event.key !== 'Escape' || !known?.dragging || known.abandoned) return;
      known.abandoned = true;
      onAbandon(known.name);
      event.stopPropagation();
    };
    const onUp = () => {
      if (gesture.current?.dragging) gesture.current = null;
    };
    window.addEventListener('keydown', onKey, true);
    window.addEventListener('pointerup', onUp);
    window.addEventListener('pointercancel', onUp);
    return () => {
      window.removeEventListener('keydown', onKey, true);
      window.removeEventListener('pointerup', onUp);
      window.removeEventListener('pointercancel', onUp);
    };
  }, [onAbandon]);

  const press = useStable(() => {
    gesture.current = null;
    nameOf(true);
  });
  const slide = useStable((next: number) => {
    const name = nameOf(gesture.current?.dragging ?? false);
    if (name !== null && (mixed || next !== value)) onChange(next, name);
  });

  return (
    <div className="flex flex-col gap-0.5" title={tip}>
      <div className="flex items-baseline justify-between">
        {lead ?? <span className={disabled ? 'text-ink-3' : 'text-ink-2'}>{label}</span>}
        <NumberField
          label={`${label}, typed`}
          setting={setting}
          value={value}
          min={typedMin}
          max={typedMax}
          step={step}
          unit={unit}
          initial={initial}
          disabled={disabled}
          onCommit={(next) => onChange(next, `${label}-typed-${Date.now()}`)}
        />
      </div>
      <Thumb
        label={label}
        value={Math.min(max, Math.max(min, value))}
        min={min}
        max={max}
        step={step}
        mixed={mixed}
        disabled={disabled}
        onPress={press}
        onSlide={slide}
      />
    </div>
  );
}

interface ThumbProps {
  label: string;
  value: number;
  min: number;
  max: number;
  step: number;
  mixed: boolean;
  disabled?: boolean;
  onPress(): void;
  onSlide(value: number): void;
}

/** The track with its thumb, kept from rendering again while its value is the same. */
const Thumb = memo(function Thumb({
  label,
  value,
  min,
  max,
  step,
  mixed,
  disabled,
  onPress,
  onSlide,
}: ThumbProps) {
  return (
    <Slider.Root
      value={[value]}
      min={min}
      max={max}
      step={step}
      disabled={disabled}
      onPointerDown={onPress}
      onValueChange={([next]) => onSlide(next)}
      className="relative flex h-4 w-full touch-none items-center select-none data-[disabled]:opacity-45"
    >
      <Slider.Track className="relative h-px grow bg-rule-strong">
        <Slider.Range className="absolute h-0.5 -translate-y-px bg-ink" />
      </Slider.Track>
      <Slider.Thumb
        aria-label={label}
        aria-valuetext={mixed ? 'mixed' : undefined}
        className={`block h-3.5 w-1.5 rounded-[1px] ${mixed ? 'bg-ink-3' : 'bg-ink'} hover:bg-ink-2`}
      />
    </Slider.Root>
  );
});
