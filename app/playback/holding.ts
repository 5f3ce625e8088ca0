import { useSyncExternalStore } from 'react';

/** Whether it is held to be heard, and seen, as played. */
let holding = false;
const listeners = new Set<() => void>();

const subscribe = (listener: () => void) => {
  listeners.add(listener);
  return () => void listeners.delete(listener);
};

export function setHolding(next: boolean) {
  if (next === holding) return;
  holding = next;
  listeners.forEach((listener) => listener());
}

export function useHolding(): boolean {
  return useSyncExternalStore(subscribe, () => holding);
}
