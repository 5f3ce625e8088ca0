import { createSmallStore } from './smallStore';

const KEY = 'ordle-tour-left';

const wasLeft = (): boolean => {
  try {
    return localStorage.getItem(KEY) !== null;
  } catch {
    return true;
  }
};

/** Which step of the tour is shown, from 0; null while none is. Once left it never comes by itself. */
const store = createSmallStore<number | null>(null);

export const useTour = store.useValue;

/** Begins the tour where it was never left; `again` whatever was before. */
export function beginTour(again = false): void {
  if (again || !wasLeft()) store.set(0);
}

export const tourTo = (step: number): void => store.set(step);

export function leaveTour(): void {
  store.set(null);
  try {
    localStorage.setItem(KEY, '1');
  } catch {
    // Storage refused: it may come again with the next page.
  }
}
