interface NameFieldProps {
  label: string;
  /** What was typed so far. */
  draft: string;
  onDraft(draft: string | null): void;
  /** The name was typed to its end: Enter, or the field was left. */
  onCommit(): void;
}

/** A name being typed in its own place: all of it selected at first, Enter takes it over, Escape gives it up. */
export function NameField({ label, draft, onDraft, onCommit }: NameFieldProps) {
  return (
    <input
      aria-label={label}
      autoFocus
      value={draft}
      onFocus={(event) => event.target.select()}
      onChange={(event) => onDraft(event.target.value)}
      onBlur={onCommit}
      onKeyDown={(event) => {
        if (event.key === 'Enter') onCommit();
        if (event.key === 'Escape') onDraft(null);
      }}
      className="w-full min-w-0 rounded-small border border-edge bg-sheet px-1"
    />
  );
}
