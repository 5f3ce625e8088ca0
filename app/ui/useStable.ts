import { useCallback, useInsertionEffect, useRef } from 'react';

/**
 * A function that stays the same while what it does is always the latest; so that what it is handed to need not
 * render again.
 */
export function useStable<Args extends unknown[], Result>(
  latest: (...args: Args) => Result,
): (...args: Args) => Result {
  const ref = useRef(latest);
  useInsertionEffect(() => {
    ref.current = latest;
  });
  return useCallback((...args: Args) => ref.current(...args), []);
}
