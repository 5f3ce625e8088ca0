import { useSyncExternalStore } from 'react';

/**
 * A value beside the document that several panels show and no undo knows: told to those that use it whenever it is
 * another.
 */
export function createSmallStore<T>(first: T, isSame: (a: T, b: T) => boolean = Object.is) {
  let value = first;
  const listeners = new Set<() => void>();
  const subscribe = (listener: () => void) => {
    listeners.add(listener);
    return () => void listeners.delete(listener);
  };
  const get = () => value;
  return {
    get,
    subscribe,
    set(next: T) {
      if (isSame(value, next)) return;
      value = next;
      listeners.forEach((listener) => listener());
    },
    useValue: () => useSyncExternalStore(subscribe, get),
    /** Something plain worked out of the value; renders again only when that is another. */
    usePicked: <P extends string | number | boolean | null>(pick: (value: T) => P): P =>
      useSyncExternalStore(subscribe, () => pick(value)),
  };
}
