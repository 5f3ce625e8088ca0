import { useSyncExternalStore } from 'react';

/** The step whose notes are lit in the editor, while its stop or its span is pointed at. */
let lit: string | null = null;
const listeners = new Set<() => void>();

const subscribe = (listener: () => void) => {
  listeners.add(listener);
  return () => void listeners.delete(listener);
};

export function lightStep(stepId: string | null) {
  if (lit === stepId) return;
  lit = stepId;
  listeners.forEach((listener) => listener());
}

export function useLitStep(): string | null {
  return useSyncExternalStore(subscribe, () => lit);
}
