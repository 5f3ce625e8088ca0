interface SearchFieldProps {
  label: string;
  value: string;
  onChange(value: string): void;
  className?: string;
}

/** What a list is searched by, as it is typed. */
export function SearchField({ label, value, onChange, className = 'h-7 w-56' }: SearchFieldProps) {
  return (
    <input
      type="search"
      aria-label={label}
      placeholder="Search"
      value={value}
      onChange={(event) => onChange(event.target.value)}
      className={`rounded-small border border-edge bg-sheet px-2 placeholder:text-ink-3 ${className}`}
    />
  );
}
