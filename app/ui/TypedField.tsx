import { useState } from 'react';
import { leftByKey } from './letGo';

interface TypedFieldProps {
  label: string;
  /** Found by it where a command puts the focus here. */
  name?: string;
  /** What to show; null where it differs among what is selected. */
  shown: string | null;
  /** What can be typed, beyond a value. */
  title?: string;
  disabled?: boolean;
  className?: string;
  onCommit(text: string): void;
  /** Takes the keys once the value is taken over or given up; without it nothing has them. */
  onLeave?(): void;
}

/**
 * A value of what is selected, typed as text: a value for all or a shift for each. Taken over at Enter or when the
 * field is left, put back by Escape.
 */
export function TypedField(props: TypedFieldProps) {
  const { label, name, shown, title, disabled, className = 'w-10', onCommit, onLeave } = props;
  const [draft, setDraft] = useState<string | null>(null);
  const commit = () => {
    if (draft !== null && draft.trim() !== '' && draft !== shown) onCommit(draft.trim());
    setDraft(null);
  };
  return (
    <input
      data-field={name}
      data-untouched={draft === null || undefined}
      aria-label={label}
      disabled={disabled}
      value={draft ?? shown ?? ''}
      placeholder="mixed"
      title={title}
      onChange={(event) => setDraft(event.target.value)}
      onFocus={(event) => event.target.select()}
      onBlur={commit}
      onKeyDown={(event) => {
        if (!leftByKey(event, commit, () => setDraft(null))) return;
        onLeave?.();
        event.stopPropagation();
      }}
      className={`${className} rounded-small border border-transparent border-b-edge bg-transparent px-0.5 text-right font-semibold text-ink placeholder:font-normal placeholder:text-ink-3 placeholder:italic focus:border-edge focus:bg-ground`}
    />
  );
}
