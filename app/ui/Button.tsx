import type { ButtonHTMLAttributes, Ref } from 'react';

interface ButtonProps extends ButtonHTMLAttributes<HTMLButtonElement> {
  /** `main` for the one main action of a place, `plain` with a rule around it, `quiet` as words only. */
  look?: 'main' | 'plain' | 'quiet';
  ref?: Ref<HTMLButtonElement>;
}

const LOOKS = {
  main: 'bg-accent text-on-accent border-accent hover:brightness-110',
  plain: 'bg-sheet text-ink border-edge hover:bg-well',
  quiet: 'border-transparent text-ink-2 hover:text-ink hover:bg-well',
};

export function Button({ look = 'plain', className = '', type = 'button', ...rest }: ButtonProps) {
  return (
    <button
      type={type}
      className={`inline-flex h-7 items-center gap-1.5 rounded-medium border px-2.5 text-work whitespace-nowrap disabled:opacity-45 disabled:hover:bg-transparent ${LOOKS[look]} ${className}`}
      {...rest}
    />
  );
}
