import type { Step } from '@ordle/core';
import { NumberField, SliderField } from '@/ui';
import { signed, type StepFormProps } from './formProps';
import { OptionalNumber, OptionalRange } from './OptionalNumber';
import { settingOf } from './settingOf';

/** Settings of a step that are numbers, or numbers that may be left out. */
type NumberKey<S> = { [K in keyof S]-?: S[K] extends number | undefined ? K : never }[keyof S] & string;
type RangeKey<S> = { [K in keyof S]-?: S[K] extends [number, number] | undefined ? K : never }[keyof S] &
  string;

interface FieldProps<S, Key> {
  form: {
    step: S;
    disabled: boolean;
    onChange(label: string, settings: Partial<NoInfer<S>>, gesture?: string): void;
    onAbandon?: StepFormProps<Step>['onAbandon'];
  };
  setting: Key;
  label: string;
  /** What the history says before the value; the label where nothing is named. */
  says?: string;
  disabled?: boolean;
}

interface NumberFieldProps<S> extends FieldProps<S, NumberKey<S>> {
  /** A value above 0 is written with its sign. */
  isSigned?: boolean;
  /** Ends of the slider and unit, where they go by other settings of the step. */
  usual?: readonly [number, number];
  unit?: string;
  /** The unit in the history, where the field itself shows none. */
  unitSaid?: string;
  className?: string;
}

type Kinds = { kind: Step['kind']; op?: string };

/** What fields share: the setting as its schema has it, the value, and how a change is written. */
function fieldOf<S extends Kinds>({
  form,
  setting,
  label,
  says = label,
  isSigned,
  ...own
}: NumberFieldProps<S>) {
  const known = settingOf(form.step, setting);
  const unit = own.unit ?? known.unit ?? '';
  const said = own.unitSaid ?? unit;
  const inWords = (value: number) => `${isSigned ? signed(value) : value}${said === '' ? '' : ` ${said}`}`;
  return {
    known: { ...known, unit, usual: own.usual ?? known.usual },
    value: form.step[setting] as number | undefined,
    disabled: own.disabled ?? form.disabled,
    put: (value: number | undefined, gesture?: string) =>
      form.onChange(
        value === undefined ? says : `${says} ${inWords(value)}`,
        { [setting]: value } as Partial<S>,
        gesture,
      ),
  };
}

/** A number setting with a slider over its usual stretch; all of its range can be typed. */
export function StepSlider<S extends Kinds>(props: NumberFieldProps<S>) {
  const { known, value, disabled, put } = fieldOf(props);
  const [least, greatest] = known.usual ?? [known.min, known.max];
  return (
    <SliderField
      setting={props.setting}
      initial={known.initial}
      label={props.label}
      value={value ?? known.start ?? known.min}
      min={least}
      max={greatest}
      typedMin={known.min}
      typedMax={known.max}
      step={known.step}
      unit={known.unit}
      disabled={disabled}
      onAbandon={props.form.onAbandon ?? (() => undefined)}
      onChange={put}
    />
  );
}

/** A number setting that is typed. */
export function StepNumber<S extends Kinds>(props: NumberFieldProps<S>) {
  const { known, value, disabled, put } = fieldOf(props);
  return (
    <NumberField
      setting={props.setting}
      initial={known.initial}
      label={props.label}
      value={value ?? known.start ?? known.min}
      min={known.min}
      max={known.max}
      step={known.step}
      unit={known.unit}
      className={props.className}
      disabled={disabled}
      onCommit={put}
    />
  );
}

/** A number setting that may be left out: a tick, and a slider over its usual stretch while it is on. */
export function StepOptional<S extends Kinds>(props: NumberFieldProps<S>) {
  const { known, value, disabled, put } = fieldOf(props);
  return (
    <OptionalNumber
      setting={props.setting}
      label={props.label}
      value={value}
      known={known}
      disabled={disabled}
      onAbandon={props.form.onAbandon}
      onChange={put}
    />
  );
}

/**
 * A range that may be left out. `initial` is what it is set to when it is ticked; `span` the least distance between
 * its ends.
 */
export function StepRange<S extends Kinds>({
  form,
  setting,
  label,
  says = label,
  disabled = form.disabled,
  initial,
  span,
}: FieldProps<S, RangeKey<S>> & { initial: [number, number]; span?: number }) {
  return (
    <OptionalRange
      setting={setting}
      label={label}
      value={form.step[setting] as [number, number] | undefined}
      initial={initial}
      known={settingOf(form.step, setting)}
      span={span}
      disabled={disabled}
      onChange={(value) =>
        form.onChange(value ? `${says} ${value[0]} to ${value[1]}` : `No ${label}`, {
          [setting]: value,
        } as Partial<S>)
      }
    />
  );
}
