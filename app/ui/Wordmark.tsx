import { Link } from 'react-router';

/** The wordmark: a line with two stops, and the name. */
export function Wordmark() {
  return (
    <Link to="/" className="flex items-center gap-1.5 rounded-small" aria-label="Ordle, to the shelf">
      <svg width="26" height="14" viewBox="0 0 26 14" aria-hidden="true">
        <path d="M2 7h22" stroke="var(--ink)" strokeWidth="1.5" />
        <rect x="1" y="4" width="6" height="6" fill="var(--ink)" />
        <circle cx="18" cy="7" r="5" fill="var(--accent)" />
      </svg>
      <span className="font-serif text-[1.3rem] leading-none font-semibold text-accent max-sm:hidden">
        ordle
      </span>
    </Link>
  );
}
