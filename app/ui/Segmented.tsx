import { ToggleGroup } from 'radix-ui';
import { memo } from 'react';
import { useMixed } from './mixed';
import { ownTip, useTip } from './settingTips';
import { useStable } from './useStable';

interface Option<T extends string> {
  value: T;
  label: string;
  title?: string;
}

interface SegmentedProps<T extends string> {
  label: string;
  value: T | null;
  options: readonly Option<T>[];
  onChange: (value: NoInfer<T>) => void;
  disabled?: boolean;
  /** The setting it shows, for telling that it is mixed. */
  setting?: string;
  /** What it does, where no form of a step knows it, and what it is at first. */
  tip?: string;
  initial?: NoInfer<T>;
}

/** A choice among few options, all in sight. */
export function Segmented<T extends string>({
  value,
  onChange,
  setting,
  tip: own,
  initial: first,
  ...rest
}: SegmentedProps<T>) {
  const mixed = useMixed(setting);
  const tip = useTip(
    setting,
    (initial) => rest.options.find((option) => option.value === initial)?.label ?? null,
    ownTip(own, first),
  );
  const change = useStable((next: string) => next !== '' && onChange(next as T));
  return (
    <Choice
      {...rest}
      title={tip}
      label={mixed ? `${rest.label}, mixed` : rest.label}
      value={mixed ? '' : (value ?? '')}
      onChange={change}
    />
  );
}

type ChoiceProps = Pick<SegmentedProps<string>, 'label' | 'options' | 'disabled'> & {
  value: string;
  title?: string;
  onChange(value: string): void;
};

/** Kept from rendering again while what it shows is the same: a form renders at every move of one of its sliders. */
const Choice = memo(function Choice({ label, value, options, disabled, title, onChange }: ChoiceProps) {
  return (
    <ToggleGroup.Root
      type="single"
      aria-label={label}
      title={title}
      value={value}
      disabled={disabled}
      onValueChange={onChange}
      className="flex w-full overflow-hidden rounded-medium border border-edge"
    >
      {options.map((option) => (
        <ToggleGroup.Item
          key={option.value}
          value={option.value}
          title={option.title}
          className="flex-auto border-r border-rule px-1.5 py-0.5 text-work whitespace-nowrap text-ink-2 last:border-r-0 hover:bg-well data-[state=on]:bg-set data-[state=on]:text-on-set disabled:opacity-45"
        >
          {option.label}
        </ToggleGroup.Item>
      ))}
    </ToggleGroup.Root>
  );
}, isSameChoice);

function isSameChoice(a: ChoiceProps, b: ChoiceProps): boolean {
  return (
    a.label === b.label &&
    a.value === b.value &&
    a.disabled === b.disabled &&
    a.title === b.title &&
    a.onChange === b.onChange &&
    a.options.length === b.options.length &&
    a.options.every(
      ({ value, label, title }, index) =>
        value === b.options[index].value &&
        label === b.options[index].label &&
        title === b.options[index].title,
    )
  );
}
