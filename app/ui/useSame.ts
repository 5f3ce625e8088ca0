import { useState } from 'react';

/**
 * The list of before for as long as it holds the very same things, so that what depends on it runs only when they
 * change.
 */
export function useSame<T>(list: readonly T[]): readonly T[] {
  const [last, setLast] = useState(list);
  if (last.length === list.length && last.every((item, at) => item === list[at])) return last;
  setLast(list);
  return list;
}
