import { useState } from 'react';
import { leftByKey } from './letGo';

interface TextFieldProps {
  label: string;
  value: string;
  disabled?: boolean;
  className?: string;
  onCommit(text: string): void;
}

/** A typed text such as a place: taken over at Enter or when the field is left, put back by Escape. */
export function TextField({ label, value, disabled, className = 'w-24', onCommit }: TextFieldProps) {
  const [draft, setDraft] = useState<string | null>(null);
  const commit = (text: string) => {
    setDraft(null);
    if (text !== value) onCommit(text);
  };
  return (
    <input
      aria-label={label}
      data-untouched={draft === null || undefined}
      value={draft ?? value}
      disabled={disabled}
      onFocus={(event) => event.target.select()}
      onChange={(event) => setDraft(event.target.value)}
      onBlur={(event) => draft !== null && commit(event.target.value)}
      onKeyDown={(event) => void leftByKey(event, commit, () => setDraft(null))}
      className={`h-6 rounded-small border border-transparent bg-transparent px-1 hover:border-edge focus:border-edge focus:bg-sheet disabled:text-ink-3 ${className}`}
    />
  );
}
