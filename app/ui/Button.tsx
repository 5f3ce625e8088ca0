import { Children, type ButtonHTMLAttributes, type ReactNode, type Ref } from 'react';

interface ButtonProps extends ButtonHTMLAttributes<HTMLButtonElement> {
  /** `main` for the one main action of a place, `plain` with a rule around it, `quiet` as underlined words. */
  look?: 'main' | 'plain' | 'quiet';
  ref?: Ref<HTMLButtonElement>;
}

const LOOKS = {
  main: 'bg-accent text-on-accent border-accent hover:brightness-110',
  plain: 'bg-sheet text-ink border-edge hover:bg-well',
  quiet: 'border-transparent text-ink-2 hover:text-ink hover:bg-well',
};

/** Words that stand alone would not look like a button; signs and pictures do. */
const isWords = (children: ReactNode): boolean =>
  Children.toArray(children).some((each) => typeof each === 'string' && /[a-z]{2}/i.test(each));

export function Button({ look = 'plain', className = '', type = 'button', ...rest }: ButtonProps) {
  const line =
    look === 'quiet' && isWords(rest.children)
      ? 'underline decoration-edge decoration-1 underline-offset-4'
      : '';
  return (
    <button
      type={type}
      className={`inline-flex h-7 items-center gap-1.5 rounded-medium border px-2.5 text-work whitespace-nowrap disabled:opacity-45 disabled:hover:bg-transparent ${LOOKS[look]} ${line} ${className}`}
      {...rest}
    />
  );
}
