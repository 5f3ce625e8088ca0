import { Checkbox } from 'radix-ui';
import { useId, type ReactNode } from 'react';

interface CheckProps {
  checked: boolean;
  disabled?: boolean;
  onChange(checked: boolean): void;
  children: ReactNode;
}

/** A square tick with its words. */
export function Check({ checked, disabled, onChange, children }: CheckProps) {
  const id = useId();
  return (
    <div className="flex items-center gap-2">
      <Checkbox.Root
        id={id}
        checked={checked}
        disabled={disabled}
        onCheckedChange={(next) => onChange(next === true)}
        className="flex h-3.5 w-3.5 shrink-0 items-center justify-center rounded-[1px] border border-ink bg-sheet disabled:opacity-45"
      >
        <Checkbox.Indicator className="h-2 w-2 bg-ink" />
      </Checkbox.Root>
      <label htmlFor={id} className={disabled ? 'text-ink-3' : ''}>
        {children}
      </label>
    </div>
  );
}
