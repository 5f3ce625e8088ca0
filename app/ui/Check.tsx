import { Checkbox } from 'radix-ui';
import { useId, type ReactNode } from 'react';
import { useMixed } from './mixed';

interface CheckProps {
  checked: boolean;
  disabled?: boolean;
  /** The setting it shows, for telling that it is mixed. */
  setting?: string;
  onChange(checked: boolean): void;
  children: ReactNode;
}

/** A square tick with its words. */
export function Check({ checked, disabled, setting, onChange, children }: CheckProps) {
  const id = useId();
  const mixed = useMixed(setting);
  return (
    <div className="flex items-center gap-2">
      <Checkbox.Root
        id={id}
        checked={mixed ? 'indeterminate' : checked}
        disabled={disabled}
        onCheckedChange={(next) => onChange(next === true)}
        className="flex h-3.5 w-3.5 shrink-0 items-center justify-center rounded-[1px] border border-ink bg-sheet disabled:opacity-45"
      >
        <Checkbox.Indicator className={mixed ? 'h-0.5 w-2 bg-ink' : 'h-2 w-2 bg-ink'} />
      </Checkbox.Root>
      <label htmlFor={id} className={disabled ? 'text-ink-3' : ''}>
        {children}
      </label>
    </div>
  );
}
