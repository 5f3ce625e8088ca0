import { ToggleGroup } from 'radix-ui';
import { useMixed } from './mixed';

interface SegmentedProps<T extends string> {
  label: string;
  value: T | null;
  options: readonly { value: T; label: string; title?: string }[];
  onChange: (value: NoInfer<T>) => void;
  disabled?: boolean;
  /** The setting it shows, for telling that it is mixed. */
  setting?: string;
}

/** A choice among few options, all in sight. */
export function Segmented<T extends string>({
  label,
  value,
  options,
  onChange,
  disabled,
  setting,
}: SegmentedProps<T>) {
  const mixed = useMixed(setting);
  return (
    <ToggleGroup.Root
      type="single"
      aria-label={mixed ? `${label}, mixed` : label}
      value={mixed ? '' : (value ?? '')}
      disabled={disabled}
      onValueChange={(next) => next !== '' && onChange(next as T)}
      className="flex w-full overflow-hidden rounded-medium border border-rule-strong"
    >
      {options.map((option) => (
        <ToggleGroup.Item
          key={option.value}
          value={option.value}
          title={option.title}
          className="flex-1 border-r border-rule px-1.5 py-0.5 text-work whitespace-nowrap text-ink-2 last:border-r-0 hover:bg-well data-[state=on]:bg-ink data-[state=on]:text-sheet disabled:opacity-45"
        >
          {option.label}
        </ToggleGroup.Item>
      ))}
    </ToggleGroup.Root>
  );
}
