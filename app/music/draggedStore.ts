import { useSyncExternalStore } from 'react';

/** By how many ticks the selected notes are being dragged just now. */
let dragged = 0;
const listeners = new Set<() => void>();

const subscribe = (listener: () => void) => {
  listeners.add(listener);
  return () => void listeners.delete(listener);
};

export function dragBy(ticks: number) {
  if (dragged === ticks) return;
  dragged = ticks;
  listeners.forEach((listener) => listener());
}

export function useDragged(): number {
  return useSyncExternalStore(subscribe, () => dragged);
}
