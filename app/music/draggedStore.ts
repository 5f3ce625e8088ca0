import { useSyncExternalStore } from 'react';

/** How far the selected notes are being dragged just now. */
interface Dragged {
  ticks: number;
  semitones: number;
}

const STILL: Dragged = { ticks: 0, semitones: 0 };
let dragged = STILL;
const listeners = new Set<() => void>();

const subscribe = (listener: () => void) => {
  listeners.add(listener);
  return () => void listeners.delete(listener);
};

export function dragBy({ ticks, semitones }: Dragged = STILL) {
  if (dragged.ticks === ticks && dragged.semitones === semitones) return;
  dragged = { ticks, semitones };
  listeners.forEach((listener) => listener());
}

export function useDragged(): Dragged {
  return useSyncExternalStore(subscribe, () => dragged);
}
