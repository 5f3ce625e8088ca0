/** How far long work is, from 0 to 1. */
export function Progress({
  label,
  share,
  className = 'w-40',
}: {
  label: string;
  share: number;
  className?: string;
}) {
  return (
    <div
      role="progressbar"
      aria-label={label}
      aria-valuenow={Math.round(100 * share)}
      className={`h-1 bg-rule ${className}`}
    >
      <div className="h-full bg-ink" style={{ width: `${100 * share}%` }} />
    </div>
  );
}
