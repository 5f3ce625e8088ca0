import { useCallback, useSyncExternalStore } from 'react';

/** Narrower than this the panels beside the music are sheets over it. */
export const NARROW = '(max-width: 899px)';
/** Narrower than this the header is folded. */
export const FOLDED_HEADER = '(max-width: 1023px)';

/** Whether a media query holds, also when that changes. */
export function useMedia(query: string): boolean {
  const subscribe = useCallback(
    (listener: () => void) => {
      const list = globalThis.matchMedia?.(query);
      list?.addEventListener('change', listener);
      return () => list?.removeEventListener('change', listener);
    },
    [query],
  );
  return useSyncExternalStore(subscribe, () => globalThis.matchMedia?.(query).matches ?? false);
}
