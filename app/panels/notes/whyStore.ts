import { useSyncExternalStore } from 'react';

/** Whether the way of the note under the keyboard is told beside the music. */
let open = false;
const listeners = new Set<() => void>();

const subscribe = (listener: () => void) => {
  listeners.add(listener);
  return () => void listeners.delete(listener);
};

export function tellWhy(next: boolean) {
  if (next === open) return;
  open = next;
  listeners.forEach((listener) => listener());
}

export const isWhyTold = () => open;

export function useWhyTold(): boolean {
  return useSyncExternalStore(subscribe, () => open);
}
