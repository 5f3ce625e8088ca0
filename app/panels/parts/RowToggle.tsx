import type { ReactNode } from 'react';

/** Seen while the row is pointed at or holds the keyboard. */
export const ON_DEMAND =
  'opacity-0 pointer-events-none group-focus-within:opacity-100 group-focus-within:pointer-events-auto group-hover:opacity-100 group-hover:pointer-events-auto pointer-coarse:opacity-100 pointer-coarse:pointer-events-auto';

interface RowToggleProps {
  label: string;
  on: boolean;
  filled?: boolean;
  disabled: boolean;
  onClick(): void;
  children: ReactNode;
}

/** What is shown, muted or soloed of a part, by a letter or a sign. */
export function RowToggle({ label, on, filled = false, disabled, onClick, children }: RowToggleProps) {
  const look = on
    ? filled
      ? 'border-set bg-set text-on-set'
      : 'border-transparent bg-sheet text-ink'
    : 'border-transparent bg-sheet text-ink-2 hover:border-edge hover:text-ink';
  return (
    <button
      type="button"
      aria-label={label}
      title={label}
      aria-pressed={on}
      disabled={disabled}
      onClick={onClick}
      className={`flex h-6 w-6 shrink-0 items-center justify-center rounded-small border text-quiet font-semibold ${look} ${on ? '' : ON_DEMAND}`}
    >
      {children}
    </button>
  );
}
