import type { ReactNode } from 'react';
import { useMixed } from './mixed';
import { ownTip, useTip } from './settingTips';

interface SelectProps {
  label: string;
  value: string;
  disabled?: boolean;
  className?: string;
  /** The setting it shows, for telling that it is mixed. */
  setting?: string;
  /** What it does, where no form of a step knows it, and what it is at first. */
  tip?: string;
  initial?: string;
  onChange(value: string): void;
  /** The options. */
  children: ReactNode;
}

/** A choice among many options. */
export function Select({
  label,
  value,
  disabled,
  className = '',
  setting,
  tip: own,
  initial: first,
  onChange,
  children,
}: SelectProps) {
  const mixed = useMixed(setting);
  const tip = useTip(
    setting,
    (initial) => (typeof initial === 'string' && initial !== '' ? initial : null),
    ownTip(own, first),
  );
  return (
    <select
      aria-label={label}
      title={tip}
      value={mixed ? '' : value}
      disabled={disabled}
      onChange={(event) => onChange(event.target.value)}
      className={`h-6 rounded-medium border border-edge bg-sheet px-1 text-work disabled:opacity-45 ${className}`}
    >
      {mixed && (
        <option value="" hidden>
          mixed
        </option>
      )}
      {children}
    </select>
  );
}
