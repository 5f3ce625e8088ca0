import type { Part } from '@ordle/core';
import { Link } from 'react-router';

interface UntouchedProps {
  parts: readonly Part[];
  /** How many parts are written in all. */
  all: number;
  sessionId: string;
}

/** Says which parts go out as they were played, since nothing was done to them, with the way to begin with it all. */
export function Untouched({ parts, all, sessionId }: UntouchedProps) {
  const names = parts.slice(0, 3).map(({ name }) => name);
  const more = parts.length - names.length;
  const named = more > 0 ? `${names.join(', ')} and ${more} more` : listed(names);
  return (
    <p className="mt-3 text-ink-2">
      {parts.length === all && all > 1
        ? 'Nothing was done to any of these parts: they go out as they were played.'
        : `Nothing was done to ${named}: ${parts.length === 1 ? 'it goes' : 'they go'} out as played.`}{' '}
      <Link
        to={`/s/${sessionId}/clean-up`}
        className="text-ink whitespace-nowrap underline hover:text-accent"
      >
        Suggested clean-up
      </Link>
    </p>
  );
}

const listed = (names: readonly string[]): string =>
  names.length < 2 ? names.join('') : `${names.slice(0, -1).join(', ')} and ${names[names.length - 1]}`;
