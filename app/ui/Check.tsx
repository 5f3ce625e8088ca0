import { Check as Tick, Minus } from 'lucide-react';
import { Checkbox } from 'radix-ui';
import { memo, useId, type ReactNode } from 'react';
import { useMixed } from './mixed';
import { useTip } from './settingTips';
import { useStable } from './useStable';

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
  const tip = useTip(setting, (initial) => (typeof initial === 'boolean' ? (initial ? 'on' : 'off') : null));
  const change = useStable((next: boolean | 'indeterminate') => onChange(next === true));
  return (
    <div className="flex items-center gap-2" title={tip}>
      <Box id={id} checked={mixed ? 'indeterminate' : checked} disabled={disabled} onChange={change} />
      <label htmlFor={id} className={disabled ? 'text-ink-3' : ''}>
        {children}
      </label>
    </div>
  );
}

interface BoxProps {
  id: string;
  checked: boolean | 'indeterminate';
  disabled?: boolean;
  onChange(checked: boolean | 'indeterminate'): void;
}

const Box = memo(function Box({ id, checked, disabled, onChange }: BoxProps) {
  return (
    <Checkbox.Root
      id={id}
      checked={checked}
      disabled={disabled}
      onCheckedChange={onChange}
      className="flex h-3.5 w-3.5 shrink-0 items-center justify-center rounded-[1px] border border-ink bg-sheet disabled:opacity-45"
    >
      <Checkbox.Indicator>
        {checked === 'indeterminate' ? (
          <Minus size={12} strokeWidth={3} aria-hidden="true" />
        ) : (
          <Tick size={12} strokeWidth={3} aria-hidden="true" />
        )}
      </Checkbox.Indicator>
    </Checkbox.Root>
  );
});
